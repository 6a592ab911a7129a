<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { remembered } from '../../parts/remembered'
import SwitchLine from '../../parts/SwitchLine.vue'
import type { Format } from '../../parts/table'
import TakeAlong from '../../parts/TakeAlong.vue'
import { takeAlong } from '../../takeAlong'
import { day, grams, money, percent } from '../../words'
import PriceChart from './PriceChart.vue'
import { useGoodCosts } from './queries'

// What materials cost over time, by supplier; what a rise does to each good.
const route = useRoute()
const router = useRouter()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['ledger', 'materials'],
  queryFn: () => ask(api.GET('/api/ledger/materials')),
})
const { data: goods } = useGoodCosts()
const lines = computed(() => data.value ?? [])
const materials = computed(() => {
  const of = new Map<string, { id: string; name: string; lines: Schemas['PriceLine'][]; jumps: number }>()
  for (const l of lines.value) {
    const one = of.get(l.material) ?? { id: l.material, name: l.name, lines: [], jumps: 0 }
    one.lines.push(l)
    one.jumps += l.points.filter((p) => p.jump).length
    of.set(l.material, one)
  }
  return [...of.values()]
})
/** What jumped is worth a look first. */
const first = computed(() => [...materials.value].sort((a, b) => b.jumps - a.jumps)[0]?.id ?? '')
const chosen = computed({
  get: () => String(route.params.id || first.value),
  set: (id) => void router.replace(`/ledger/buying/${id}`),
})
const open = computed(() => materials.value.find((m) => m.id === chosen.value))
const active = remembered('ledger.active', false)
const hasActive = computed(() => open.value?.lines.some((l) => l.active))
/** The goods it goes into, those it weighs most in first. */
const into = computed(() =>
  (goods.value ?? [])
    .flatMap((g) =>
      g.strata.filter((s) => s.item === chosen.value && s.tenth_dearer).map((s) => ({ good: g, stratum: s })),
    )
    .sort((a, b) => b.stratum.share - a.stratum.share),
)
function along(as: Format) {
  const rows = lines.value.flatMap((l) =>
    l.points.map((p) => [
      l.name,
      l.supplier,
      p.day,
      p.lot,
      p.pack_g,
      p.paid,
      p.per_kg,
      p.per_kg_active,
      l.active,
      l.currency,
    ]),
  )
  const head = [
    'material',
    'supplier',
    'day',
    'lot',
    'pack g',
    'paid',
    'per kg',
    'per kg of what does the work',
    'which is',
    'currency',
  ]
  void takeAlong(as, { file: 'prices-paid', head, rows })
}
</script>

<template>
  <div class="beside">
    <section class="main-part" aria-labelledby="buying">
      <header>
        <h2 id="buying">What materials cost over time</h2>
        <span class="spring" />
        <TakeAlong v-if="lines.length" @take="along" />
      </header>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="data && !lines.length" class="empty">No delivery with a price was taken in yet.</p>
      <template v-if="open">
        <div class="of-what">
          <Choice
            v-model="chosen"
            label="Material"
            :options="materials.map((m) => ({ value: m.id, label: m.jumps ? `${m.name} ▲` : m.name }))"
          />
          <SwitchLine v-if="hasActive" v-model="active" name="active">
            a kilogram of what does the work:
            {{ percent(open.lines.find((l) => l.active)?.active_share ?? 1) }} of it is
            {{ open.lines.find((l) => l.active)?.active?.toLowerCase() }}
          </SwitchLine>
        </div>
        <PriceChart :lines="open.lines" :active="active && !!hasActive" />
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">supplier</th>
              <th scope="col">day</th>
              <th scope="col">lot</th>
              <th scope="col" class="right">pack</th>
              <th scope="col" class="right">paid</th>
              <th scope="col" class="right">a kilogram<AboutThis of="perKilo" /></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="l in open.lines" :key="l.supplier">
              <tr v-for="p in l.points" :key="p.lot + p.day">
                <td>{{ l.supplier || 'nobody said' }}</td>
                <td>{{ day(p.day) }}</td>
                <td>{{ p.lot }}</td>
                <td class="right num">{{ grams(p.pack_g) }}</td>
                <td class="right num">{{ money(p.paid, l.currency) }}</td>
                <td class="right num">
                  {{ money((active && p.per_kg_active) || p.per_kg, l.currency) }}
                  <span v-if="p.jump" class="stop small"
                    >{{ p.jump > 0 ? '▲' : '▼' }} {{ percent(Math.abs(p.jump)) }}</span
                  >
                </td>
              </tr>
              <tr v-if="l.drift_a_year !== undefined">
                <td colspan="6" class="soft small">
                  {{ l.supplier }} drifts by {{ percent(l.drift_a_year) }} a year; cheapest so far
                  {{ money(l.cheapest_per_kg, l.currency) }} a kilogram, in packs of
                  {{ grams(l.cheapest_pack_g ?? 0) }}.
                </td>
              </tr>
            </template>
          </tbody>
        </table>
      </template>
    </section>
    <aside v-if="open" class="into" aria-label="Which goods it weighs in">
      <h2>A tenth dearer</h2>
      <p class="soft small">What a rise of {{ open.name.toLowerCase() }} by a tenth does to each good.</p>
      <p v-if="!into.length">It goes into no good of the last batches.</p>
      <table v-else class="rows">
        <tbody>
          <tr v-for="i in into" :key="i.good.formula">
            <td>
              <RouterLink :to="`/ledger/goods/${i.good.formula}`">{{ i.good.name }}</RouterLink>
              <div class="soft small">{{ percent(i.stratum.share) }} of its cost</div>
            </td>
            <td class="right num">
              + {{ money(i.stratum.tenth_dearer, i.good.currency) }}
              <div class="soft small">a {{ i.good.of }}</div>
            </td>
          </tr>
        </tbody>
      </table>
    </aside>
  </div>
</template>

<style scoped>
header {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  margin-bottom: 8px;
}

.spring {
  flex: 1;
}

.of-what {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 24px;
  margin-bottom: 12px;
}

.of-what > :first-child {
  width: 260px;
}

.into {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 300px;
  overflow: auto;
  padding: 18px 20px 40px;
}

.stop {
  color: var(--oxblood);
}

@media (max-width: 900px) {
  .into {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
  }
}
</style>
