<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake, currency } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import type { Format } from '../../parts/table'
import TakeAlong from '../../parts/TakeAlong.vue'
import { takeAlong } from '../../takeAlong'
import { grams, money, sentence } from '../../words'

// What is to be bought: put there when something was short, or below its reorder point. A
// delivery of it takes it off.
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['shelf', 'wanted'],
  queryFn: () => ask(api.GET('/api/wanted')),
})
const list = computed(() => data.value ?? [])
const takeOff = useMutation({
  mutationFn: (material: string) =>
    ask(api.DELETE('/api/wanted/{material}', { params: { path: { material } } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['shelf', 'wanted'] }),
})
const why = (l: Schemas['WantedLine']) =>
  [...l.for.map((f) => `for ${f}`), l.low ? 'below its reorder point' : ''].filter(Boolean).join(', ')
/** All of it, as a delivery is noted. */
const note = computed(() =>
  list.value.map((l) => (l.grams ? `${Math.ceil(l.grams)} g ${l.name.toLowerCase()}` : l.name)).join('; '),
)
function along(as: Format) {
  const rows = list.value.map((l) => [
    l.name,
    Math.ceil(l.grams),
    Math.round(l.there_g),
    why(l),
    l.price_per_kg,
  ])
  void takeAlong(as, { file: 'to-buy', head: ['name', 'grams', 'on the shelf', 'why', 'price per kg'], rows })
}
const print = () => window.print()
</script>

<template>
  <section aria-labelledby="to-buy">
    <header>
      <h2 id="to-buy">What to buy</h2>
      <span class="spring" />
      <template v-if="list.length">
        <TakeAlong @take="along" />
        <Button class="no-print" @click="print">Print</Button>
      </template>
    </header>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="data && !list.length">
      Nothing. What a formula is short of is put here from “Make it”, and what falls below its reorder point
      comes by itself.
    </p>
    <table v-else-if="list.length" class="rows">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col" class="right">How much</th>
          <th scope="col" class="right">On the shelf</th>
          <th scope="col" class="right no-print">Last, a kg</th>
          <th class="no-print"><span class="unseen">Take it off</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in list" :key="l.material">
          <td>
            <span class="tick-box paper" aria-hidden="true" /><RouterLink :to="`/shelf/${l.material}`">{{
              l.name
            }}</RouterLink>
            <div class="soft small">{{ why(l) }}</div>
          </td>
          <td class="right num">{{ l.grams ? grams(l.grams) : 'some' }}</td>
          <td class="right num">{{ grams(l.there_g) }}</td>
          <td class="right num no-print">
            {{ l.price_per_kg ? money(l.price_per_kg, currency) : l.price_per_kg === '' ? '' : 'no price' }}
          </td>
          <td class="right no-print">
            <button
              v-if="canMake && l.for.length"
              type="button"
              class="plain do"
              :aria-label="`Take ${l.name} off the list`"
              @click="takeOff.mutate(l.material)"
            >
              take it off
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="takeOff.error.value" class="bad" role="alert">{{ sentence(takeOff.error.value) }}</p>
    <RouterLink
      v-if="canMake && list.length"
      class="no-print"
      :to="{ path: '/shelf', query: { delivery: note } }"
      >It came: note a delivery</RouterLink
    >
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
  max-width: 760px;
}

header {
  align-items: center;
  display: flex;
  gap: 10px;
  margin-bottom: 8px;
}

table {
  margin-bottom: 12px;
}

.num {
  font-size: 17px;
}

.do {
  color: var(--cobalt);
  min-height: 32px;
  text-decoration: underline;
}

@media screen {
  .paper {
    display: none;
  }
}
</style>
