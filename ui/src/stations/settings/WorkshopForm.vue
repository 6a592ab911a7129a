<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { reactive, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { isOwner, session } from '../../api/session'
import type { Topic } from '../../parts/about'
import AboutThis from '../../parts/AboutThis.vue'
import LabelSettings from './LabelSettings.vue'

// What holds for the whole workshop: its name, measures, water and scale.
type Workshop = Schemas['Workshop']
/** What the workshop may say of its own; a field that is empty counts as usual. */
const ownFigures = ['drops_per_ml', 'scoop_ml', 'laundry_water_l', 'dishes_water_l'] as const
type Figure = 'scale_step_g' | 'scale_capacity_g' | (typeof ownFigures)[number]
type Field = { key: Figure; label: string; unit: string; min: number; max?: number; about: Topic }

const client = useQueryClient()
const form = reactive({ ...(session.value?.workshop as Workshop) })
const saved = ref('')

const save = useMutation({
  mutationFn: () => {
    const body = { ...form }
    delete body.hardness_class
    delete body.region_says
    for (const f of ownFigures) body[f] ||= 0
    return ask(api.PUT('/api/workshop', { body }))
  },
  onSuccess: (w) => {
    Object.assign(form, w)
    if (session.value) session.value.workshop = w
    saved.value = 'Kept.'
    void client.invalidateQueries()
  },
})

const measures = [
  { value: 'us', label: 'US: cup 237 ml, tbsp 14.8 ml' },
  { value: 'metric', label: 'Metric: cup 250 ml, tbsp 15 ml' },
  { value: 'imperial', label: 'Imperial: cup 284 ml, tbsp 15 ml' },
  { value: 'australian', label: 'Australian: cup 250 ml, tbsp 20 ml' },
]
const pairs: Field[][] = [
  [
    { key: 'scale_step_g', label: 'The scale shows steps of', unit: 'g', min: 0.001, about: 'scaleStep' },
    { key: 'scale_capacity_g', label: 'and bears up to', unit: 'g', min: 10, about: 'scaleMost' },
  ],
  [
    { key: 'drops_per_ml', label: 'Your dropper, empty for usual', unit: 'drops/ml', min: 0, about: 'drops' },
    { key: 'scoop_ml', label: 'Your scoop, empty for usual', unit: 'ml', min: 0, about: 'scoop' },
  ],
  [
    {
      key: 'laundry_water_l',
      label: 'Water of one wash, else 20 l',
      unit: 'l',
      min: 0,
      max: 500,
      about: 'laundryWater',
    },
    {
      key: 'dishes_water_l',
      label: 'Water of the dishes, else 4 l',
      unit: 'l',
      min: 0,
      max: 100,
      about: 'dishesWater',
    },
  ],
]
</script>

<template>
  <form class="field-column" @submit.prevent="save.mutate()">
    <h2>Workshop</h2>
    <label
      ><span class="field-label">Name</span><Input v-model:value="form.name" :disabled="!isOwner"
    /></label>
    <label>
      <span class="field-label">Cups and spoons</span>
      <Select v-model:value="form.measures" :options="measures" :disabled="!isOwner" class="wide" />
    </label>
    <label>
      <span class="field-label"
        >Water hardness{{ form.hardness_class ? `: ${form.hardness_class}` : '' }}<AboutThis of="hardness"
      /></span>
      <Input v-model:value="form.hardness" placeholder="268 mg/l, 15 °dH, 27 °fH" :disabled="!isOwner" />
    </label>
    <label>
      <span class="field-label">Currency</span>
      <Input v-model:value="form.currency" :maxlength="3" :disabled="!isOwner" />
    </label>
    <label>
      <span class="field-label">Time zone, empty for the server's</span>
      <Input v-model:value="form.time_zone" placeholder="Europe/Vienna" :disabled="!isOwner" />
    </label>
    <div v-for="(pair, i) in pairs" :key="i" class="pair">
      <label v-for="f in pair" :key="f.key">
        <span class="field-label">{{ f.label }}<AboutThis :of="f.about" /></span>
        <InputNumber
          v-model:value="form[f.key]"
          :min="f.min"
          :max="f.max"
          :addon-after="f.unit"
          :disabled="!isOwner"
        />
      </label>
    </div>
    <LabelSettings v-model="form" />
    <label class="tick">
      <input v-model="form.scale" type="checkbox" name="scale" :disabled="!isOwner" />
      A scale is on the bench, and is read as it weighs (a simulated one ships)
    </label>
    <label class="tick">
      <input v-model="form.hygrometer" type="checkbox" name="hygrometer" :disabled="!isOwner" />
      A hygrometer is on the wall, and is read every half hour (a simulated one ships)
    </label>
    <label class="tick">
      <input
        v-model="form.viewers_see_prices"
        type="checkbox"
        name="viewers-see-prices"
        :disabled="!isOwner"
      />
      Those who only look see prices and costs, too
    </label>
    <p v-if="save.isError.value" class="bad" role="alert">{{ sentence(save.error.value) }}</p>
    <Button v-if="isOwner" type="primary" html-type="submit">Keep</Button>
    <span class="soft" role="status"> {{ saved }}</span>
  </form>
</template>
