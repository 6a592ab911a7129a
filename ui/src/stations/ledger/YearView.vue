<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { counted, grams, money } from '../../words'
import YearChart from './YearChart.vue'

// A year: what was made, sold, given and spoiled, by month, good and outlet, and what stock is
// worth at cost on a day.
const year = ref(dayjs().year())
const { data, isPending, error, refetch } = useQuery({
  queryKey: computed(() => ['ledger', 'year', year.value]),
  queryFn: () => ask(api.GET('/api/ledger/year', { params: { query: { year: year.value } } })),
  placeholderData: (last) => last,
})
const today = dayjs().format('YYYY-MM-DD')
const on = ref(today)
const { data: stock, error: noStock } = useQuery({
  queryKey: computed(() => ['ledger', 'stock', on.value]),
  queryFn: () => ask(api.GET('/api/ledger/stock', { params: { query: { day: on.value } } })),
  enabled: computed(() => /^\d{4}-\d\d-\d\d$/.test(on.value)),
  placeholderData: (last) => last,
  retry: false,
})
const years = computed(() => {
  const from = data.value?.first_year ?? year.value
  return Array.from({ length: dayjs().year() - from + 1 }, (_, i) => ({
    value: dayjs().year() - i,
    label: String(dayjs().year() - i),
  }))
})
const by = ref<'months' | 'goods' | 'outlets'>('goods')
const rows = computed(() => data.value?.[by.value] ?? [])
const sampled = computed(() => rows.value.some((r) => r.sampled))
const nameOf = (r: Schemas['SumRow']) =>
  by.value === 'months'
    ? dayjs(r.month).format('MMMM')
    : by.value === 'goods'
      ? (r.name ?? '')
      : r.outlet || 'nobody said'
const total = computed(() => {
  const own = (data.value?.months ?? []).filter((r) => r.currency === data.value?.currency)
  const sum = (of: (r: Schemas['SumRow']) => string | undefined) =>
    own.reduce((n, r) => n + Math.round(100 * Number(of(r) ?? 0)), 0) / 100
  return {
    brought: sum((r) => r.brought),
    left: sum((r) => r.left),
    sold: own.reduce((n, r) => n + r.sold, 0),
    weighed: own.reduce((n, r) => n + (r.sold_by_weight_g ?? 0), 0),
  }
})
const kinds: Record<Schemas['StockOfKind']['kind'], string> = {
  raw: 'materials',
  packaging: 'packaging',
  'half-made': 'half-made',
  good: 'goods',
}
</script>

<template>
  <section class="year">
    <header>
      <h2>What became of</h2>
      <Choice v-model="year" class="which" label="Year" unseen :options="years" />
      <span class="spring" />
      <a
        class="as-button no-print"
        :href="`/api/ledger/year/file?year=${year}`"
        :download="`year-${year}.xlsx`"
        >As a spreadsheet</a
      >
      <a
        class="as-button no-print"
        :href="`/api/ledger/year/file?year=${year}&as=csv`"
        :download="`year-${year}.csv`"
        >As CSV</a
      >
    </header>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <template v-if="data">
      <dl>
        <div>
          <dt>brought</dt>
          <dd class="num">{{ money(String(total.brought), data.currency) }}</dd>
        </div>
        <div>
          <dt>left over materials and packaging</dt>
          <dd class="num">{{ money(String(total.left), data.currency) }}</dd>
        </div>
        <div>
          <dt>sold</dt>
          <dd class="num">
            {{ counted(total.sold, 'jar')
            }}<template v-if="total.weighed"> and {{ grams(total.weighed) }}</template>
          </dd>
        </div>
      </dl>
      <p v-if="noStock" class="bad" role="alert">
        That day cannot be told: it is still to come, or there is no such day.
      </p>
      <div class="drawn">
        <YearChart :months="data.months" :year="data.year" :currency="data.currency" />
        <dl>
          <div>
            <dt>
              <label
                >in stock, at cost, at the end of
                <input v-model="on" class="plain-field day" type="date" :max="today" name="stock-day"
              /></label>
            </dt>
            <dd v-for="v in stock?.values ?? []" :key="v.kind + v.currency" class="num part">
              {{ money(v.value, v.currency) }}
              <span class="soft small"
                >{{ kinds[v.kind]
                }}<template v-if="v.unpriced"
                  >, {{ counted(v.unpriced, 'lot') }} without a price</template
                ></span
              >
            </dd>
          </div>
        </dl>
      </div>
      <p class="soft small key">
        <span class="a" /> brought <span class="b" /> what that cost in materials and packaging
      </p>
      <div class="views no-print" role="group" aria-label="By what it is summed">
        <button
          v-for="v in [
            ['goods', 'by good'],
            ['months', 'by month'],
            ['outlets', 'by outlet'],
          ] as const"
          :key="v[0]"
          class="plain"
          type="button"
          :class="{ on: by === v[0] }"
          :aria-pressed="by === v[0]"
          @click="by = v[0]"
        >
          {{ v[1] }}
        </button>
      </div>
      <div>
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">{{ by === 'goods' ? 'good' : by === 'months' ? 'month' : 'outlet' }}</th>
              <th v-if="by !== 'outlets'" scope="col" class="right roomy">made</th>
              <th scope="col" class="right">sold</th>
              <th scope="col" class="right">brought</th>
              <th scope="col" class="right">cost</th>
              <th scope="col" class="right">left<AboutThis of="yearLeft" /></th>
              <th scope="col" class="right roomy">given</th>
              <th scope="col" class="right roomy">out<AboutThis of="yearOut" /></th>
              <th v-if="by !== 'outlets'" scope="col" class="right roomy">spoiled</th>
              <th v-if="by !== 'outlets' && sampled" scope="col" class="right roomy">samples</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="nameOf(r) + r.currency">
              <td>{{ nameOf(r) }}</td>
              <td v-if="by !== 'outlets'" class="right num roomy">{{ r.made || '' }}</td>
              <td class="right num">
                {{ r.sold || '' }}
                <div v-if="r.sold_by_weight_g" class="small">{{ grams(r.sold_by_weight_g) }} by weight</div>
                <div v-if="r.unpriced" class="small watch">{{ r.unpriced }} without a price</div>
              </td>
              <td class="right num">{{ money(r.brought, r.currency) }}</td>
              <td class="right num">{{ money(r.sold_cost, r.currency) }}</td>
              <td class="right num" :class="{ stop: Number(r.left) < 0 }">{{ money(r.left, r.currency) }}</td>
              <td class="right num roomy">{{ r.given || '' }}</td>
              <td class="right num roomy">{{ r.out || '' }}</td>
              <td v-if="by !== 'outlets'" class="right num roomy">{{ r.spoiled || '' }}</td>
              <td v-if="by !== 'outlets' && sampled" class="right num roomy">{{ r.sampled || '' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="soft small">
        This is no bookkeeping: tax and accounts are for whoever does yours. Hands, stove and failures are
        told under Goods; here stand materials and packaging.
      </p>
    </template>
  </section>
</template>

<style scoped>
.year {
  overflow: auto;
  padding: 18px 24px 40px;
}

header {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
}

.which {
  width: 110px;
}

.spring {
  flex: 1;
}

dl {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 34px;
  margin: 14px 0;
}

dt {
  color: var(--ink-soft);
  font-size: 13px;
}

dd {
  font-size: 26px;
  font-weight: 600;
  margin: 0;
}

.part {
  font-size: 17px;
}

.drawn {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 30px;
}

.drawn > :first-child {
  flex: 1 1 520px;
}

.drawn dl {
  flex: 0 0 260px;
}

.day {
  display: inline-block;
  width: 140px;
}

.key span {
  border: 1.5px solid var(--celadon-ink);
  display: inline-block;
  height: 12px;
  margin: 0 4px 0 12px;
  vertical-align: -1px;
  width: 18px;
}

.key .a {
  background: var(--celadon-wash);
}

.key .b {
  background: repeating-linear-gradient(135deg, var(--ink-soft) 0 1px, transparent 1px 5px);
  border-color: var(--ink-soft);
}

.views {
  margin: 14px 0 8px;
}

.as-button {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  padding: 4px 15px;
  text-decoration: none;
}

.stop {
  color: var(--oxblood);
}

.watch {
  color: var(--ochre-ink);
}

@media (max-width: 640px) {
  .roomy {
    display: none;
  }
}

@media (max-width: 900px) {
  .year {
    overflow: visible;
    padding: 14px 16px 30px;
  }
}
</style>
