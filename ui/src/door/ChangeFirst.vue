<script setup lang="ts">
import { Button } from 'ant-design-vue'

import { session, signOut } from '../api/session'
import PasswordForm from './PasswordForm.vue'

// A demo that became a workshop of its own: who still has the public password changes it
// before anything else.
</script>

<template>
  <main class="first">
    <h1>Change your password first</h1>
    <p>
      {{ session?.workshop.name }} is no demo any more, and the password you signed in with is public. Choose
      one of your own, {{ session?.person.name }}.
    </p>
    <PasswordForm opened />
    <Button @click="signOut()">Sign out</Button>
  </main>
</template>

<style scoped>
.first {
  margin: 12vh auto;
  max-width: 26em;
  padding: 0 20px;
}
</style>
