<script setup lang="ts">
import { sentence } from '../words'

// What stands in place of something while it is looked for, and when it cannot be had.
defineProps<{ pending?: boolean; error?: unknown }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <p v-if="error" class="bad" role="alert">
    {{ sentence(error) }}
    <button class="plain again" type="button" @click="$emit('again')">Try again</button>
  </p>
  <p v-else-if="pending" class="soft">Looking.</p>
</template>

<style scoped>
.again {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
