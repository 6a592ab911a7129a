<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { isOwner } from '../../api/session'
import { sentence } from '../../words'

// Within which limits it is made: days, minutes at the bench, and how many there are of what
// something stands in.
const client = useQueryClient()
const { data } = useQuery({
  queryKey: ['almanac', 'limits'],
  queryFn: () => ask(api.GET('/api/plan/limits')),
  meta: { what: 'the limits of the plan' },
})
const form = ref<Schemas['PlanLimits']>({ work_days: [], bench_min_a_day: 240, vessels: [], version: 0 })
watch(
  data,
  (d) => {
    if (d) form.value = { ...d, work_days: [...d.work_days], vessels: d.vessels.map((v) => ({ ...v })) }
  },
  { immediate: true },
)
const names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const keep = useMutation({
  mutationFn: () => ask(api.PUT('/api/plan/limits', { body: form.value })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['almanac'] }),
})
</script>

<template>
  <details v-if="isOwner" class="limits no-print">
    <summary>Within which limits</summary>
    <form @submit.prevent="keep.mutate()">
      <fieldset>
        <legend class="field-label">Days of work</legend>
        <label v-for="(n, i) in names" :key="n"
          ><input v-model="form.work_days" type="checkbox" :value="i + 1" /> {{ n }}</label
        >
      </fieldset>
      <label class="minutes">
        <span class="field-label">Minutes at the bench a day</span>
        <InputNumber v-model:value="form.bench_min_a_day" name="bench-minutes" :min="0" :max="1440" />
      </label>
      <div v-for="(v, i) in form.vessels" :key="i" class="vessel">
        <Input v-model:value="v.name" :aria-label="`Mould or vessel ${i + 1}`" :maxlength="80" />
        <InputNumber v-model:value="v.count" :aria-label="`How many of it, ${i + 1}`" :min="0" :max="1000" />
        <Button @click="form.vessels.splice(i, 1)">Leave out</Button>
      </div>
      <p class="acts">
        <Button @click="form.vessels.push({ name: '', count: 1 })">A mould or vessel</Button>
        <Button type="primary" html-type="submit" :loading="keep.isPending.value">Keep these</Button>
      </p>
      <p class="soft small">A mould or vessel goes by the name it has in the steps of formulas.</p>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
    </form>
  </details>
</template>

<style scoped>
.limits {
  margin-top: 22px;
  max-width: 560px;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  padding: 6px 0;
}

fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 0;
}

.minutes {
  display: block;
  margin: 8px 0;
}

.vessel,
.acts {
  display: flex;
  gap: 8px;
  margin: 6px 0;
}
</style>
