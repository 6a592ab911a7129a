<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useKinds } from '../../api/queries'
import { currency } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { sentence } from '../../words'
import { useRates } from './queries'

// What an hour of hands and a kilowatt hour cost here, and bought goods to compare with. What
// is left empty is not known, and is given no number.
const client = useQueryClient()
const { data, error, refetch } = useRates()
const { data: kinds } = useKinds()
const form = ref<Schemas['Rates']>({ hour: '', kwh: '', stove_w: 0, bought: [], version: 0 })
watch(
  data,
  (d) => {
    if (d) form.value = { ...d, bought: d.bought.map((b) => ({ ...b })) }
  },
  { immediate: true },
)
const dot = (s: string) => s.replace(',', '.')
const keep = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/ledger/rates', {
        body: {
          ...form.value,
          hour: dot(form.value.hour),
          kwh: dot(form.value.kwh),
          bought: form.value.bought.map((b) => ({ ...b, price: dot(b.price) })),
        },
      }),
    ),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['ledger'] }),
})
const another = () => form.value.bought.push({ name: '', kind: 'laundry-powder', price: '', uses: 40 })
</script>

<template>
  <details class="rates no-print">
    <summary>What an hour and a kilowatt hour cost</summary>
    <Looking :error="error" @again="refetch()" />
    <form @submit.prevent="keep.mutate()">
      <div class="three">
        <label>
          <span class="field-label">An hour of hands</span>
          <Input v-model:value="form.hour" name="hour" inputmode="decimal" :addon-after="currency" />
        </label>
        <label>
          <span class="field-label">A kilowatt hour</span>
          <Input v-model:value="form.kwh" name="kwh" inputmode="decimal" :addon-after="currency" />
        </label>
        <label>
          <span class="field-label">The stove draws</span>
          <InputNumber v-model:value="form.stove_w" name="stove" :min="0" :max="50000" addon-after="W" />
        </label>
      </div>
      <h3>Bought goods, to compare a use with</h3>
      <div v-for="(b, i) in form.bought" :key="i" class="bought">
        <label>
          <span class="field-label">What</span>
          <Input v-model:value="b.name" :name="`bought-${i}`" :maxlength="80" />
        </label>
        <Choice
          v-model="b.kind"
          label="beside"
          :options="(kinds ?? []).map((k) => ({ value: k.kind, label: k.name }))"
        />
        <label>
          <span class="field-label">costs</span>
          <Input v-model:value="b.price" inputmode="decimal" :name="`bought-price-${i}`" />
        </label>
        <label>
          <span class="field-label">for so many uses</span>
          <InputNumber v-model:value="b.uses" :min="1" :name="`bought-uses-${i}`" />
        </label>
        <Button @click="form.bought.splice(i, 1)">Leave out</Button>
      </div>
      <p class="acts">
        <Button @click="another">Another</Button>
        <Button type="primary" html-type="submit" :loading="keep.isPending.value">Keep these</Button>
      </p>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
    </form>
  </details>
</template>

<style scoped>
.rates {
  margin-top: 22px;
  max-width: 760px;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  padding: 6px 0;
}

.three,
.bought {
  align-items: end;
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
  margin-bottom: 10px;
}

h3 {
  margin: 10px 0 6px;
}

.acts {
  display: flex;
  gap: 8px;
}
</style>
