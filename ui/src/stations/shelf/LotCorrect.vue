<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { reactive } from 'vue'

import type { Schemas } from '../../api/client'

// What was noted wrongly when a bag came. Only what differs is sent; what it was
// before stays with the lot.
const props = defineProps<{ lot: Schemas['Lot'] }>()
const emit = defineEmits<{ correct: [Schemas['LotCorrection'], string] }>()

const noted = {
  code: props.lot.code,
  landed: props.lot.landed,
  supplier: props.lot.supplier ?? '',
  received: props.lot.received,
  best_before: props.lot.best_before ?? '',
}
const right = reactive({ ...noted })
const reason = reactive({ text: '' })
const fields = [
  { key: 'code', label: 'Code', type: 'text' },
  { key: 'landed', label: `Price, ${props.lot.currency}`, type: 'text' },
  { key: 'supplier', label: 'From', type: 'text' },
  { key: 'received', label: 'Came on', type: 'date' },
  { key: 'best_before', label: 'Best before', type: 'date' },
] as const

function keep() {
  const change = Object.fromEntries(
    Object.entries(right).filter(([k, v]) => v !== noted[k as keyof typeof noted] && (v || k === 'supplier')),
  ) as Schemas['LotCorrection']
  emit('correct', change, reason.text.trim())
}
</script>

<template>
  <form class="correct small" @submit.prevent="keep">
    <label v-for="f in fields" :key="f.key">
      <span class="field-label">{{ f.label }}</span>
      <input
        v-model="right[f.key]"
        class="plain-field"
        :name="`lot-${f.key}`"
        :type="f.type"
        maxlength="500"
      />
    </label>
    <label>
      <span class="field-label">because</span>
      <input
        v-model="reason.text"
        class="plain-field"
        name="lot-reason"
        placeholder="a slip of the pen"
        maxlength="200"
      />
    </label>
    <Button html-type="submit" size="small">Put it right</Button>
  </form>
</template>

<style scoped>
.correct {
  align-items: end;
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 1fr;
  margin-top: 6px;
}
</style>
