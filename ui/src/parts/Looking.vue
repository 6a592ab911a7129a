<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'

import { sentence } from '../words'

// What stands in place of something while it is looked for, and when it cannot be had. What
// takes more than two seconds is said to, and can be asked for again.
const props = defineProps<{ pending?: boolean; error?: unknown }>()
defineEmits<{ again: [] }>()

const late = 2000 // ms
const long = ref(false)
let timer: ReturnType<typeof setTimeout> | undefined
watch(
  () => props.pending && !props.error,
  (now) => {
    clearTimeout(timer)
    long.value = false
    if (now) timer = setTimeout(() => (long.value = true), late)
  },
  { immediate: true },
)
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <p v-if="error" class="bad" role="alert">
    {{ sentence(error) }}
    <button class="plain again" type="button" @click="$emit('again')">Try again</button>
  </p>
  <p v-else-if="pending" class="soft" role="status">
    {{ long ? 'It takes longer than it should.' : 'Looking.' }}
    <button v-if="long" class="plain again" type="button" @click="$emit('again')">Try again</button>
  </p>
</template>

<style scoped>
.again {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
