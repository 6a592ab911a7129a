<script setup lang="ts">
import { onMounted, onUnmounted, ref } from 'vue'

import { keyHints } from '../parts/useKeys'

defineEmits<{ leave: [] }>()

// it takes the focus when it opens, and gives it back
const panel = ref<HTMLElement>()
const before = document.activeElement
onMounted(() => panel.value?.focus())
onUnmounted(() => before instanceof HTMLElement && before.focus())
</script>

<template>
  <aside ref="panel" class="keys" role="dialog" tabindex="-1" aria-label="Keys of this station">
    <h2>Keys</h2>
    <dl v-for="(hints, i) in keyHints" :key="i">
      <template v-for="h in hints" :key="h.keys">
        <dt>{{ h.keys }}</dt>
        <dd>{{ h.does }}</dd>
      </template>
    </dl>
    <button class="plain soft" type="button" @click="$emit('leave')">Esc leaves</button>
  </aside>
</template>

<style scoped>
.keys {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  bottom: 18px;
  padding: 16px 20px;
  position: fixed;
  right: 18px;
  width: 320px;
  z-index: 30;
}

dl {
  display: grid;
  gap: 4px 14px;
  grid-template-columns: max-content 1fr;
  margin: 10px 0;
}

dt {
  font-family: var(--slab);
  font-weight: 600;
}

dd {
  margin: 0;
}
</style>
