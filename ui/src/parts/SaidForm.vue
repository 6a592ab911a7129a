<script setup lang="ts">
import { Button } from 'ant-design-vue'

import type { Heard } from './said'
import SaidField from './SaidField.vue'

// What is said of something: a field, what was heard of it, what stands against it, and the press
// that keeps it.
defineProps<{
  said: string
  name: string
  label: string
  placeholder: string
  act: string
  ready: boolean
  busy: boolean
  done: string
  heard?: Heard
  /** What was read, in words. */
  lines?: string[]
  problems?: { detail?: string }[]
  lost: string[]
  /** What went wrong, in words. */
  wrong: string[]
}>()
defineEmits<{ typed: [string]; keep: [] }>()
</script>

<template>
  <form class="say no-print" @submit.prevent="ready && $emit('keep')">
    <label class="field">
      <span class="field-label">{{ label }}</span>
      <SaidField
        :model-value="said"
        :heard="heard"
        :name="name"
        :label="label"
        :placeholder="placeholder"
        @update:model-value="$emit('typed', $event)"
        @commit="ready && $emit('keep')"
        @escape="$emit('typed', '')"
      />
    </label>
    <ul v-if="lines" class="heard" aria-live="polite">
      <li v-for="(h, i) in lines" :key="i">{{ h }}</li>
      <li v-for="(p, i) in problems" :key="`p${i}`" class="watch">▲ {{ p.detail }}</li>
      <li v-if="lost.length" class="watch">▲ Not understood: {{ lost.join(', ') }}.</li>
    </ul>
    <slot />
    <p v-for="w in wrong" :key="w" class="bad" role="alert">{{ w }}</p>
    <div class="acts">
      <Button type="primary" html-type="submit" :disabled="!ready" :loading="busy">{{ act }}</Button>
      <span class="soft" role="status">{{ done }}</span>
    </div>
  </form>
</template>

<style scoped>
.heard {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

.watch {
  color: var(--ochre-ink);
}

.acts {
  align-items: center;
  display: flex;
  gap: 12px;
  margin-top: 8px;
}
</style>
