<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { day, sentence } from '../../words'
import OrderForm from './OrderForm.vue'
import SayOrder from './SayOrder.vue'
import ShoppingList from './ShoppingList.vue'

// What is ordered, said or filled in, and what to buy for it.
const props = defineProps<{ plan?: Schemas['GoodPlan'] }>()
const client = useQueryClient()
const { data: orders } = useQuery({
  queryKey: ['almanac', 'orders'],
  queryFn: () => ask(api.GET('/api/orders')),
  enabled: canMake,
})
const end = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/orders/{id}', { params: { path: { id } } })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['almanac'] }),
})
const first = (o: Schemas['GoodOrder']) => props.plan?.orders.find((p) => p.order === o.id)
function stands(o: Schemas['GoodOrder']) {
  const p = first(o)
  if (!p) return ''
  return p.given === p.jars && !p.late_days ? ' · in time' : ' · not in time'
}
function when(o: Schemas['GoodOrder']) {
  const often = o.every_weeks ? `, every ${o.every_weeks === 1 ? 'week' : `${o.every_weeks} weeks`}` : ''
  return day(o.day) + often + (o.until ? ` until ${day(o.until)}` : '') + stands(o)
}
</script>

<template>
  <aside class="asked" aria-label="What is ordered, what to buy">
    <SayOrder />
    <h2>What is ordered</h2>
    <ul class="orders">
      <li v-for="o in orders" :key="o.id">
        <strong>{{ o.jars }} {{ o.name }}</strong
        ><template v-if="o.to"> for {{ o.to }}</template>
        <div class="soft small">
          {{ when(o) }}<template v-if="o.note"> · {{ o.note }}</template>
        </div>
        <button class="plain do no-print" type="button" :name="`end-${o.name}`" @click="end.mutate(o.id)">
          given, or not wanted<span class="unseen">: {{ o.jars }} {{ o.name }}</span>
        </button>
      </li>
    </ul>
    <p v-if="orders && !orders.length" class="soft">Nothing so far.</p>
    <p v-if="end.error.value" class="bad" role="alert">{{ sentence(end.error.value) }}</p>
    <details class="no-print">
      <summary>Fill an order in</summary>
      <OrderForm />
    </details>
    <ShoppingList v-if="plan?.shopping.length" :plan="plan" />
  </aside>
</template>

<style scoped>
.asked {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 360px;
  overflow: auto;
  padding: 14px 20px 40px;
}

h2 {
  margin: 18px 0 8px;
}

.orders {
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
}

.orders li {
  border-bottom: 1px solid var(--clay-line);
  padding: 8px 0;
}

.do {
  color: var(--cobalt);
  font-size: 13px;
  text-decoration: underline;
}

summary {
  cursor: pointer;
  padding: 6px 0;
}

@media (max-width: 900px) {
  .asked {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
  }
}
</style>
