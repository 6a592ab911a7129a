<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { onBeforeUnmount, ref, watch } from 'vue'

import type { Format } from './table'

// A list to take along, as it stands: for a program, for a spreadsheet, on paper (the default
// slot). One button, so that the line over a list stays one line.
defineEmits<{ take: [as: Format] }>()
const open = ref(false)
const here = ref<HTMLElement>()
const shut = (e: Event) => {
  if (e instanceof KeyboardEvent ? e.key === 'Escape' : !here.value?.contains(e.target as Node))
    open.value = false
}
watch(
  open,
  (is) => {
    for (const event of ['keydown', 'pointerdown', 'focusin'] as const)
      if (is) document.addEventListener(event, shut)
      else document.removeEventListener(event, shut)
  },
  { flush: 'sync' },
)
onBeforeUnmount(() => (open.value = false))
</script>

<template>
  <div ref="here" class="along no-print" @click="open = !open">
    <Button :aria-expanded="open" aria-haspopup="true">Take along</Button>
    <div v-if="open" class="ways">
      <Button @click="$emit('take', 'csv')">As CSV</Button>
      <Button @click="$emit('take', 'xlsx')">As XLSX</Button>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.along {
  position: relative;
}

.ways {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  display: grid;
  gap: 6px;
  min-width: 130px;
  padding: 8px;
  position: absolute;
  right: 0;
  top: calc(100% + 4px);
  z-index: 10;
}
</style>
