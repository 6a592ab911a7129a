<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { isOwner } from '../../api/session'
import { sentence } from '../../words'
import { useLimits } from './queries'

// Within which limits it is made: days, minutes at the bench, and how many there are of what
// something stands in.
const props = defineProps<{ plan: Schemas['GoodPlan'] }>()
const client = useQueryClient()
const { data } = useLimits()
type Form = Required<Pick<Schemas['PlanLimits'], 'days_off' | 'suppliers'>> & Schemas['PlanLimits']
const form = ref<Form>({
  work_days: [],
  bench_min_a_day: 240,
  vessels: [],
  days_off: [],
  suppliers: [],
  version: 0,
})
watch(
  data,
  (d) => {
    if (d) form.value = { days_off: [], suppliers: [], ...(JSON.parse(JSON.stringify(d)) as typeof d) }
  },
  { immediate: true },
)
/** Suppliers that something is bought from and of whom nothing is said yet. */
const more = computed(() => {
  const there = new Set(form.value.suppliers.map((s) => s.name.toLowerCase()))
  const names = props.plan.shopping.flatMap((b) => (b.supplier ? [b.supplier] : []))
  return [...new Set(names)].filter((n) => !there.has(n.toLowerCase()))
})
const addSupplier = (name: string) => form.value.suppliers.push({ name, days: 3, known: true })
function addOff() {
  const tomorrow = dayjs().add(1, 'day').format('YYYY-MM-DD')
  form.value.days_off.push({ from: tomorrow, to: tomorrow })
}
function sayDays(s: Schemas['SupplierDays'], n: unknown) {
  s.known = typeof n === 'number'
  s.days = typeof n === 'number' ? n : 0
}
/** No day named is any day. */
const takesOn = (s: Schemas['SupplierDays'], day: number) =>
  !s.order_days?.length || s.order_days.includes(day)
function orderOn(s: Schemas['SupplierDays'], day: number) {
  const days = names.map((_, i) => i + 1).filter((d) => (d === day ? !takesOn(s, d) : takesOn(s, d)))
  s.order_days = days.length === 7 || days.length === 0 ? undefined : days
}
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
        <Input
          v-model:value="v.name"
          class="named"
          :aria-label="`Mould or vessel ${i + 1}`"
          :maxlength="80"
        />
        <InputNumber v-model:value="v.count" :aria-label="`How many of it, ${i + 1}`" :min="0" :max="1000" />
        <Button @click="form.vessels.splice(i, 1)">Leave out</Button>
      </div>
      <div v-for="(o, i) in form.days_off" :key="`off${i}`" class="vessel">
        <label
          >Nobody works from
          <input v-model="o.from" class="plain-field" type="date" :aria-label="`Days off from, ${i + 1}`" />
        </label>
        <label
          >to <input v-model="o.to" class="plain-field" type="date" :aria-label="`Days off to, ${i + 1}`" />
        </label>
        <Button @click="form.days_off.splice(i, 1)">Leave out</Button>
      </div>
      <fieldset v-for="(s, i) in form.suppliers" :key="`sup${i}`" class="vessel">
        <legend class="unseen">Supplier {{ i + 1 }}</legend>
        <Input v-model:value="s.name" class="named" :aria-label="`Supplier ${i + 1}`" :maxlength="120" />
        <InputNumber
          :value="s.known ? (s.days ?? 0) : undefined"
          :aria-label="`Days from order to door, ${i + 1}`"
          :min="0"
          :max="365"
          addon-after="days"
          @update:value="sayDays(s, $event)"
        />
        <Input
          :value="s.delivery"
          class="price"
          :aria-label="`What a delivery costs, ${i + 1}`"
          placeholder="delivery"
          @update:value="s.delivery = $event || undefined"
        />
        <Button @click="form.suppliers.splice(i, 1)">Leave out</Button>
        <span class="order-days">
          <span class="soft small">takes orders on</span>
          <label v-for="(n, d) in names" :key="n"
            ><input
              type="checkbox"
              :checked="takesOn(s, d + 1)"
              :aria-label="`${s.name || 'This supplier'} takes orders on ${n}`"
              @change="orderOn(s, d + 1)"
            />
            {{ n }}</label
          >
        </span>
      </fieldset>
      <p class="acts">
        <Button @click="form.vessels.push({ name: '', count: 1 })">A mould or vessel</Button>
        <Button @click="addOff">Days off</Button>
        <Button v-for="n in more" :key="n" @click="addSupplier(n)">Days of {{ n }}</Button>
        <Button v-if="!more.length" @click="addSupplier('')">A supplier’s days</Button>
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
  max-width: 640px;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  padding: 6px 0;
}

.order-days {
  display: flex;
  flex-basis: 100%;
  flex-wrap: wrap;
  gap: 4px 12px;
}

fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 0;
}

.named {
  flex: 1 1 160px;
}

.price {
  flex: 0 0 96px;
}

.minutes {
  display: block;
  margin: 8px 0;
}

.vessel,
.acts {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 6px 0;
}
</style>
