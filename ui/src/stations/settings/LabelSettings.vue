<script setup lang="ts">
import { Input, Select } from 'ant-design-vue'

import type { Schemas } from '../../api/client'
import { isOwner } from '../../api/session'

// What stands on labels and on the pages of jars: who made it, how they are reached, what the
// law asks for where it is sold, whose dose, and where phones read the codes.
type Workshop = Schemas['Workshop']
const form = defineModel<Workshop>({ required: true })

const regions = [
  { value: '', label: 'European Union' },
  { value: 'uk', label: 'United Kingdom' },
  { value: 'us', label: 'United States' },
  { value: 'elsewhere', label: 'Elsewhere' },
]
const doses = [
  { value: '', label: 'the best there is' },
  { value: 'counted', label: 'what was counted' },
  { value: 'formula', label: 'what the formula says' },
  { value: 'reckoned', label: 'what the water asks for' },
]
const chooseRegion = (v: unknown) => (form.value.region = v as Workshop['region'])
const chooseDose = (v: unknown) => (form.value.label_dose = v as Workshop['label_dose'])
</script>

<template>
  <label>
    <span class="field-label">Address, as it stands on labels</span>
    <Input v-model:value="form.address" :maxlength="400" name="address" :disabled="!isOwner" />
  </label>
  <label>
    <span class="field-label">Whom to ask, as the page of a jar says</span>
    <Input v-model:value="form.contact" :maxlength="400" name="contact" :disabled="!isOwner" />
  </label>
  <label>
    <span class="field-label">Telephone, as it stands on labels</span>
    <Input v-model:value="form.phone" :maxlength="60" name="phone" :disabled="!isOwner" />
  </label>
  <label>
    <span class="field-label">Your goods are sold in</span>
    <Select
      class="wide"
      :value="form.region ?? ''"
      :options="regions"
      aria-label="Your goods are sold in"
      :disabled="!isOwner"
      @update:value="chooseRegion"
    />
    <span class="soft small">{{ form.region_says }} Local codes and a licensed assessor decide.</span>
  </label>
  <label>
    <span class="field-label">Labels carry the dose</span>
    <Select
      class="wide"
      :value="form.label_dose ?? ''"
      :options="doses"
      aria-label="Labels carry the dose"
      :disabled="!isOwner"
      @update:value="chooseDose"
    />
    <span v-if="!form.label_dose" class="soft small">
      What was counted, else what your formula says, else what is reckoned from the water.
    </span>
  </label>
  <label>
    <span class="field-label">Phones read the codes of jars at, empty for where this page is open</span>
    <Input
      v-model:value="form.jar_origin"
      :maxlength="200"
      name="jar-origin"
      placeholder="https://works.example"
      :disabled="!isOwner"
    />
  </label>
  <label class="tick">
    <input v-model="form.private_jars" type="checkbox" name="private-jars" :disabled="!isOwner" />
    The code of a jar shows nothing to a phone that is not signed in
  </label>
</template>
