<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { Button, Checkbox, Input, InputNumber, Select } from 'ant-design-vue'
import { computed } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import TypedBefore from '../../parts/TypedBefore.vue'
import { sentence } from '../../words'
import { useGood } from '../../api/queries'
import { unsentForm } from '../../api/unsent'

// A card of the workshop's own, for one of its goods.
const props = defineProps<{ card?: Schemas['UseCard']; batch?: string }>()
const emit = defineEmits<{ kept: []; leave: [] }>()

const { data: formulas } = useQuery({
  queryKey: ['formulas', 'for-cards'],
  meta: { what: 'the formulas' },
  queryFn: () => ask(api.GET('/api/formulas')),
})
const { data: good } = useGood(() => props.batch ?? '')
const words = (list?: string[]) => (list ?? []).join(', ')
const { form, back, sent, empty } = unsentForm(`card ${props.card?.id ?? ''} ${props.card?.version ?? ''}`, {
  formula: props.card?.formula ?? '',
  task: props.card?.task ?? '',
  surfaces: words(props.card?.surfaces),
  strength: props.card?.strength ?? '',
  how: props.card?.how ?? '',
  leave: props.card?.leave_minutes,
  rinse: props.card?.rinse ?? true,
  not_on: words(props.card?.not_on),
  order: props.card?.order ?? '',
  every: props.card?.every_days,
})
const goods = computed(() => (formulas.value ?? []).map((f) => ({ value: f.id, label: f.name })))
const formula = computed({
  get: () => form.formula || goods.value.find((g) => g.label === good.value?.name)?.value || '',
  set: (id) => (form.formula = id),
})
const list = (text: string) =>
  text
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean)
const save = useMutation({
  mutationFn: () => {
    const body = {
      formula: formula.value,
      task: form.task,
      surfaces: list(form.surfaces),
      strength: form.strength,
      how: form.how,
      leave_minutes: form.leave ?? 0,
      rinse: form.rinse,
      not_on: list(form.not_on),
      order: form.order,
      every_days: form.every ?? 0,
      version: props.card?.version ?? 0,
    }
    return props.card
      ? ask(api.PUT('/api/cards/{id}', { params: { path: { id: props.card.id } }, body }))
      : ask(api.POST('/api/cards', { body }))
  },
  onSuccess: () => {
    sent()
    emit('kept')
  },
})
</script>

<template>
  <form class="card-form" @submit.prevent="save.mutate()" @keydown.esc="$emit('leave')">
    <TypedBefore :back="back" @empty="empty" />
    <label>
      <span class="field-label">For which good</span>
      <Select v-model:value="formula" :options="goods" :disabled="!!card" aria-label="For which good" />
    </label>
    <label><span class="field-label">Task</span><Input v-model:value="form.task" name="card-task" /></label>
    <label>
      <span class="field-label">On, with commas</span>
      <Input v-model:value="form.surfaces" name="card-on" />
    </label>
    <label>
      <span class="field-label">Not on, with commas</span>
      <Input v-model:value="form.not_on" name="card-not-on" />
    </label>
    <label>
      <span class="field-label">How strong</span>
      <Input v-model:value="form.strength" name="card-strength" placeholder="2 tbsp to 5 litres" />
    </label>
    <label>
      <span class="field-label">Leave, minutes</span>
      <InputNumber v-model:value="form.leave" :min="0" :max="2880" name="card-leave" />
    </label>
    <label>
      <span class="field-label">Every so many days, if it comes round</span>
      <InputNumber v-model:value="form.every" :min="0" :max="3650" name="card-every" />
    </label>
    <label class="wide">
      <span class="field-label">How</span>
      <Input.TextArea v-model:value="form.how" name="card-how" :rows="2" />
    </label>
    <label class="wide">
      <span class="field-label">What goes before or after, and what never together</span>
      <Input v-model:value="form.order" name="card-order" />
    </label>
    <div class="wide acts">
      <Checkbox v-model:checked="form.rinse">rinse after</Checkbox>
      <Button
        type="primary"
        html-type="submit"
        :disabled="!form.task || !form.how || !formula"
        :loading="save.isPending.value"
      >
        Keep the card
      </Button>
      <Button @click="$emit('leave')">Leave it</Button>
      <span v-if="save.error.value" class="bad" role="alert">{{ sentence(save.error.value) }}</span>
    </div>
  </form>
</template>

<style scoped>
.card-form {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  display: grid;
  gap: 10px 16px;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  margin-bottom: 16px;
  padding: 14px;
}

.card-form :deep(.ant-select),
.card-form :deep(.ant-input-number) {
  width: 100%;
}

.wide {
  grid-column: 1 / -1;
}

.acts {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
