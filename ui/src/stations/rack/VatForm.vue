<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { computed, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import TypedBefore from '../../parts/TypedBefore.vue'
import { sentence } from '../../words'
import { useFormulas, useRack } from '../../api/queries'
import { unsentForm } from '../../api/unsent'
import AboutThis from '../../parts/AboutThis.vue'
import SidePanel from '../../parts/SidePanel.vue'
import type { Vessel } from './vessels'

const props = defineProps<{ was?: Vessel }>()
const emit = defineEmits<{ leave: []; kept: [string] }>()
const client = useQueryClient()

const { data: rack } = useRack()
const { form, back, sent, empty, usually } = unsentForm(`vat ${props.was?.id ?? ''}`, {
  name: props.was?.name ?? '',
  litres: props.was ? props.was.capacity_ml / 1000 : 10,
  stir: props.was?.stir_every_days,
  first: props.was?.first_draw_days,
  note: props.was?.note ?? '',
  formula: props.was?.formula ?? '',
  rest: props.was?.rest_days,
})
watch(
  () => rack.value?.usual_vat,
  (usual) => {
    if (usual) usually({ stir: usual.stir_every_days, first: usual.first_draw_days, rest: usual.rest_days })
  },
  { immediate: true },
)
const { data: formulas } = useFormulas()
const choices = computed(() => [
  { value: '', label: 'nothing that is kept here' },
  ...(formulas.value ?? []).map((f) => ({ value: f.id, label: f.name })),
])
const keep = useMutation({
  mutationFn: () => {
    const body: Schemas['VesselPlan'] = {
      name: form.name,
      capacity_ml: (form.litres || 0) * 1000,
      stir_every_days: form.stir || 0,
      first_draw_days: form.first || 0,
      note: form.note,
      formula: form.formula || undefined,
      rest_days: form.formula ? form.rest || 0 : 0,
    }
    return props.was
      ? ask(api.PUT('/api/vessels/{id}', { params: { path: { id: props.was.id } }, body }))
      : ask(api.POST('/api/vessels', { body }))
  },
  onSuccess: (v) => {
    void client.invalidateQueries({ queryKey: ['rack'] })
    sent()
    emit('kept', v.id)
  },
})
</script>

<template>
  <SidePanel :title="was ? `How ${was.name} is kept` : 'A new vat'" @leave="$emit('leave')">
    <form class="field-column" @submit.prevent="keep.mutate()">
      <TypedBefore :back="back" @empty="empty" />
      <label>
        <span class="field-label">Name</span>
        <Input v-model:value="form.name" name="vat-name" placeholder="Peel bin by the door" />
      </label>
      <label>
        <span class="field-label">It holds</span>
        <InputNumber v-model:value="form.litres" :min="0.01" addon-after="l" name="vat-litres" />
      </label>
      <label>
        <span class="field-label">Stirred every, 0 for never</span>
        <InputNumber v-model:value="form.stir" :min="0" :max="365" addon-after="days" name="vat-stir" />
      </label>
      <label>
        <span class="field-label">It makes</span>
        <Select v-model:value="form.formula" :options="choices" class="wide" />
      </label>
      <label v-if="form.formula">
        <span class="field-label">What is drawn rests<AboutThis of="rest" /></span>
        <InputNumber v-model:value="form.rest" :min="0" :max="1000" addon-after="days" name="vat-rest" />
      </label>
      <label>
        <span class="field-label">Stands before the first draw<AboutThis of="firstDraw" /></span>
        <InputNumber v-model:value="form.first" :min="0" :max="1000" addon-after="days" name="vat-first" />
      </label>
      <label>
        <span class="field-label">Note</span>
        <Input v-model:value="form.note" name="vat-note" placeholder="what goes in, where it stands" />
      </label>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
      <Button type="primary" html-type="submit" :loading="keep.isPending.value">
        {{ was ? 'Keep' : 'Set it up' }}
      </Button>
    </form>
  </SidePanel>
</template>
