<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, InputNumber } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, reactive, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { isOwner } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import { sentence } from '../../words'
import { useLimits } from './queries'

// What if: double the order, a mould broken, a supplier late, a price up, nobody there. The plan
// as it would be is shown by whoever asked; what can be kept is kept from here.
const props = defineProps<{ plan: Schemas['GoodPlan'] }>()
const emit = defineEmits<{ would: [Schemas['PlanIf'] | undefined]; kept: [] }>()
const client = useQueryClient()
const { data: limits } = useLimits()

const sorts = [
  { value: 'more', label: 'more is ordered' },
  { value: 'vessel', label: 'there are other moulds or vessels' },
  { value: 'off', label: 'nobody works for a while' },
  { value: 'late', label: 'a supplier is late' },
  { value: 'dearer', label: 'something gets dearer' },
] as const
type Sort = (typeof sorts)[number]['value']
const form = reactive({
  sort: 'more' as Sort,
  times: 2,
  order: '',
  vessel: '',
  count: 0,
  from: dayjs().add(1, 'day').format('YYYY-MM-DD'),
  to: dayjs().add(10, 'day').format('YYYY-MM-DD'),
  supplier: '',
  days: 7,
  material: '',
  percent: 20,
})
const orders = computed(() => {
  const seen = new Map<string, string>()
  for (const o of props.plan.orders)
    if (o.order && !seen.has(o.order)) seen.set(o.order, `${o.jars} ${o.name}${o.to ? ` for ${o.to}` : ''}`)
  return [
    { value: '', label: 'of each order' },
    ...[...seen].map(([value, label]) => ({ value, label: `of ${label}` })),
  ]
})
const vessels = computed(() => {
  const names = new Set([...(limits.value?.vessels ?? []).map((v) => v.name), ...props.plan.vessels])
  return [...names].filter((n) => n !== 'the rack').map((n) => ({ value: n, label: n }))
})
const suppliers = computed(() => {
  const names = new Set([
    ...(limits.value?.suppliers ?? []).map((s) => s.name),
    ...props.plan.shopping.flatMap((b) => (b.supplier ? [b.supplier] : [])),
  ])
  return [...names].map((n) => ({ value: n, label: n }))
})
const materials = computed(() => {
  const of = new Map(props.plan.shopping.map((b) => [b.material, b.name]))
  return [...of].map(([value, label]) => ({ value, label }))
})
const would = computed<Schemas['PlanIf'] | undefined>(() => {
  switch (form.sort) {
    case 'more':
      return { orders_times: form.times, ...(form.order ? { order: form.order } : {}) }
    case 'vessel':
      return form.vessel ? { vessels: [{ name: form.vessel, count: form.count }] } : undefined
    case 'off':
      return form.from && form.to ? { off: [{ from: form.from, to: form.to }] } : undefined
    case 'late':
      return form.supplier ? { late: [{ name: form.supplier, days: form.days }] } : undefined
    default:
      return form.material ? { dearer: [{ material: form.material, percent: form.percent }] } : undefined
  }
})
const asking = ref(false)
function look() {
  asking.value = true
  emit('would', would.value)
}
/** Only what is a limit can be kept: an order is changed where it stands, a price by a delivery. */
const canKeep = computed(
  () => asking.value && isOwner.value && ['vessel', 'off', 'late'].includes(form.sort) && !!limits.value,
)
const keep = useMutation({
  async mutationFn() {
    const body = would.value
    if (body) await ask(api.POST('/api/plan/if/keep', { body }))
  },
  onSuccess() {
    asking.value = false
    emit('kept')
    void client.invalidateQueries({ queryKey: ['almanac'] })
  },
})
</script>

<template>
  <details class="what-if" @toggle="($event.target as HTMLDetailsElement).open || emit('would', undefined)">
    <summary>What if …</summary>
    <form @submit.prevent="look">
      <Choice v-model="form.sort" label="What if" :options="[...sorts]" @chosen="asking = false" />
      <template v-if="form.sort === 'more'">
        <label>
          <span class="field-label">Times as many</span>
          <InputNumber v-model:value="form.times" name="if-times" :min="0.1" :max="10" :step="0.5" />
        </label>
        <Choice v-model="form.order" label="Of which" :options="orders" />
      </template>
      <template v-else-if="form.sort === 'vessel'">
        <Choice v-model="form.vessel" label="Mould or vessel" :options="vessels" />
        <label>
          <span class="field-label">There are</span>
          <InputNumber v-model:value="form.count" name="if-count" :min="0" :max="1000" />
        </label>
      </template>
      <template v-else-if="form.sort === 'off'">
        <label>
          <span class="field-label">From</span>
          <input v-model="form.from" class="plain-field" type="date" name="if-from" />
        </label>
        <label>
          <span class="field-label">to</span>
          <input v-model="form.to" class="plain-field" type="date" name="if-to" />
        </label>
      </template>
      <template v-else-if="form.sort === 'late'">
        <Choice v-model="form.supplier" label="Supplier" :options="suppliers" />
        <label>
          <span class="field-label">Days later than usual</span>
          <InputNumber v-model:value="form.days" name="if-days" :min="0" :max="365" />
        </label>
      </template>
      <template v-else>
        <Choice v-model="form.material" label="What gets dearer" :options="materials" />
        <label>
          <span class="field-label">By how many per cent</span>
          <InputNumber v-model:value="form.percent" name="if-percent" :min="-90" :max="1000" />
        </label>
      </template>
      <Button html-type="submit" :disabled="!would">See what changes</Button>
      <Button v-if="canKeep" type="primary" :loading="keep.isPending.value" @click="keep.mutate()"
        >It is so: keep it</Button
      >
    </form>
    <p v-if="form.sort === 'late' && !suppliers.length" class="soft small">
      Nothing has to be bought for the plan.
    </p>
    <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
  </details>
</template>

<style scoped>
.what-if {
  margin: 14px 0;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  padding: 6px 0;
}

form {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
}

form > .choice {
  min-width: 190px;
}

form > .choice:first-child {
  min-width: 260px;
}
</style>
