<script setup lang="ts">
import { Input } from 'ant-design-vue'

import type { Schemas } from '../api/client'
import Choice from '../parts/Choice.vue'

// What every figure of a new workshop will be said in; all of it can be changed under Settings.
const first = defineModel<{ measures: Schemas['Measures']; currency: string; hardness: string }>({
  required: true,
})
const measures: { value: Schemas['Measures']; label: string }[] = [
  { value: 'us', label: 'US cups' },
  { value: 'metric', label: 'Metric cups' },
  { value: 'imperial', label: 'Imperial cups' },
  { value: 'australian', label: 'Australian cups' },
]
</script>

<template>
  <div class="first">
    <Choice v-model="first.measures" label="Cups and spoons" :options="measures" />
    <label>
      <span class="field-label">Money</span>
      <Input v-model:value="first.currency" name="currency" :maxlength="3" />
    </label>
    <label class="wide">
      <span class="field-label">Hardness of your water, if you know it</span>
      <Input v-model:value="first.hardness" name="hardness" placeholder="268 mg/l, 15 °dH" />
    </label>
  </div>
</template>

<style scoped>
.first {
  display: grid;
  gap: 10px;
  grid-template-columns: 1.6fr 1fr;
}

.wide {
  grid-column: 1 / -1;
}
</style>
