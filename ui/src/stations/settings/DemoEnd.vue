<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { ref } from 'vue'
import { sentence } from '../../words'

import { removeDemo, session } from '../../api/session'

// The demo goes when it is said twice, by name.
const asked = ref(false)
const remove = useMutation({ mutationFn: removeDemo })
</script>

<template>
  <div v-if="session?.demo" class="demo">
    <p class="soft">
      {{ session.workshop.name }} is the demo. Real work begins in a workshop of your own: sign out and begin
      it. Then the demo can be removed.
    </p>
    <Button v-if="!asked" @click="asked = true">Remove the demo</Button>
    <template v-else>
      <Button danger :loading="remove.isPending.value" @click="remove.mutate()">
        {{ session.workshop.name }} is gone for good
      </Button>
      <Button @click="asked = false">No, it stays</Button>
    </template>
    <p v-if="remove.error.value" class="bad" role="alert">{{ sentence(remove.error.value) }}</p>
  </div>
</template>

<style scoped>
.demo {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}

.demo p {
  flex-basis: 100%;
  margin: 0;
}
</style>
