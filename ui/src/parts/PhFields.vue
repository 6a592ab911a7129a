<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../api/client'
import Choice from './Choice.vue'

// A pH that was measured, and with what: how exact it is follows from that.
const props = defineProps<{
  what: string
  name: string
  frozen?: boolean
  modelValue?: Schemas['MeasuredPh']
}>()
const emit = defineEmits<{ 'update:modelValue': [Schemas['MeasuredPh'] | undefined] }>()

type With = Schemas['MeasuredPh']['with']
const by = computed<With>(() => props.modelValue?.with ?? last.value)
const last = defineModel<With>('with', { default: 'strip' }) // what is held, before there is a figure

const ways: { value: With; label: string }[] = [
  { value: 'strip', label: 'by strip, ±0.5' },
  { value: 'meter', label: 'by meter, ±0.05' },
]

const typed = (e: Event) => (e.target as HTMLInputElement).value
/** A figure that is taken away takes the measuring away. */
function setPh(text: string) {
  emit('update:modelValue', text === '' ? undefined : { ph: Number(text), with: by.value })
}
function setWith(by: With) {
  last.value = by
  if (props.modelValue) emit('update:modelValue', { ph: props.modelValue.ph, with: last.value })
}
</script>

<template>
  <label>
    <span>{{ what }}</span>
    <input
      class="plain-field"
      :value="modelValue?.ph ?? ''"
      type="number"
      min="0"
      max="14"
      step="any"
      placeholder="none"
      :name="name"
      :readonly="frozen"
      @input="setPh(typed($event))"
    />
  </label>
  <Choice
    class="with"
    :model-value="by"
    :label="`${what}, measured with`"
    unseen
    :options="ways"
    :disabled="frozen"
    @chosen="setWith"
  />
</template>

<style scoped>
label {
  align-items: center;
  display: flex;
  gap: 8px;
}

input {
  width: 64px;
}

.with {
  width: 150px;
}
</style>
