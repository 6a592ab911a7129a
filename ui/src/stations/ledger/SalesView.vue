<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { currency, isOwner } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import TakeAlong from '../../parts/TakeAlong.vue'
import { useWhole } from '../../parts/useWhole'
import { takeAlong } from '../../takeAlong'
import { counted, day, grams, money } from '../../words'
import OutletForm from './OutletForm.vue'
import OutletPrices from './OutletPrices.vue'
import { useOutlets } from './queries'
import SayMove from './SayMove.vue'

// What was sold, given, sent out and came back, the newest first, and who takes jars.
const route = useRoute()
const router = useRouter()
const { data: outlets, error: noOutlets, refetch: again } = useOutlets()
const id = computed(() => String(route.params.id ?? ''))
const open = computed(() => outlets.value?.find((o) => o.id === id.value))

const list = useInfiniteQuery({
  queryKey: computed(() => ['ledger', 'acts', open.value?.id ?? '']),
  queryFn: async ({ pageParam }) => {
    const call = api.GET('/api/acts', {
      params: {
        query: { outlet: open.value?.id, ...(pageParam ? { after: pageParam, limit: 200 } : { limit: 30 }) },
      },
    })
    const acts = await ask(call)
    return { acts, next: (await call).response.headers.get('Next-Page') || undefined }
  },
  initialPageParam: '',
  getNextPageParam: (page) => page.next,
})
const acts = computed(() => list.data.value?.pages.flatMap((p) => p.acts) ?? [])
const how: Record<Schemas['ActKind'], string> = {
  sold: 'sold',
  given: 'given',
  gone: 'sent out',
  returned: 'came back',
  discarded: 'thrown away',
}
const what = (a: Schemas['Act']) => {
  const of = new Map<string, { jars: number; grams: number }>()
  for (const l of a.lines) {
    const sum = of.get(l.name) ?? { jars: 0, grams: 0 }
    of.set(l.name, { jars: sum.jars + l.jars, grams: sum.grams + (l.grams ?? 0) })
  }
  return [...of]
    .flatMap(([name, n]) => [
      ...(n.jars ? [`${n.jars} ${name}`] : []),
      ...(n.grams ? [`${grams(n.grams)} of ${name}`] : []),
    ])
    .join(', ')
}
const along = useWhole(
  list,
  () => false,
  () => ({
    file: 'sales',
    head: [
      'note',
      'when',
      'how',
      'to',
      'good',
      'batch',
      'jars',
      'grams',
      'price each',
      'together',
      'currency',
    ],
    rows: acts.value.flatMap((a) =>
      a.lines.map((l) => [
        a.number,
        a.at?.slice(0, 10),
        how[a.kind],
        a.to,
        l.name,
        l.batch_code,
        l.jars || undefined,
        l.grams,
        l.grams ? undefined : l.price,
        l.together,
        a.currency,
      ]),
    ),
  }),
  takeAlong,
)
</script>

<template>
  <div class="beside">
    <section class="main-part" aria-labelledby="sales">
      <SayMove />
      <header>
        <h2 id="sales">{{ open ? `With ${open.name}` : 'What went and came back' }}</h2>
        <RouterLink v-if="open" to="/ledger/sales" replace>with everybody</RouterLink>
        <span class="spring" />
        <RouterLink class="no-print" to="/settings/sheets?what=sales">Bring in a sheet</RouterLink>
        <TakeAlong v-if="acts.length" @take="along = $event" />
      </header>
      <Looking :pending="list.isPending.value" :error="list.error.value" @again="list.refetch()" />
      <p v-if="list.data.value && !acts.length" class="empty">
        Nothing yet. Say it above: “three Towpath to the guest house, 9.50 each”.
      </p>
      <div v-if="acts.length" class="scroll">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">when</th>
              <th scope="col">what</th>
              <th scope="col">to, from</th>
              <th scope="col" class="right">brought</th>
              <th scope="col" class="right no-print">note</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="a in acts" :key="a.id">
              <td>{{ day(a.at) }}</td>
              <td>
                {{ what(a) }} <span class="soft small">{{ how[a.kind] }}</span>
                <div v-if="a.note" class="soft small">{{ a.note }}</div>
              </td>
              <td>{{ a.to || 'nobody said' }}</td>
              <td class="right num">
                <template v-if="a.brought">{{ money(a.brought, a.currency ?? currency) }}</template>
                <span v-else-if="a.kind === 'sold'" class="soft">no price</span>
                <div v-if="a.deposits" class="soft small">
                  and {{ money(a.deposits, a.currency ?? currency) }} deposit
                </div>
              </td>
              <td class="right no-print">
                <a :href="`/api/acts/${a.id}/note`" :download="`note-${a.number}.pdf`">{{ a.number }}</a>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <Button v-if="list.hasNextPage.value" class="no-print" @click="list.fetchNextPage()">More</Button>
    </section>
    <aside class="who no-print" aria-label="Who takes jars">
      <OutletForm
        v-if="open || id === 'new'"
        :key="id"
        :was="open"
        @leave="router.replace('/ledger/sales')"
        @kept="router.replace('/ledger/sales')"
      />
      <OutletPrices v-if="open && isOwner" :key="`p${id}`" :outlet="open.id" />
      <template v-if="!open && id !== 'new'">
        <header>
          <h2>Who takes jars</h2>
          <span class="spring" />
          <RouterLink to="/ledger/sales/new" replace>Add</RouterLink>
        </header>
        <Looking :error="noOutlets" @again="again()" />
        <p v-if="outlets && !outlets.length" class="soft">
          Nobody yet. Who is named in a sale stands here by themselves.
        </p>
        <ul>
          <li v-for="o in outlets" :key="o.id">
            <RouterLink :to="`/ledger/sales/${o.id}`" replace>{{ o.name }}</RouterLink>
            <div class="soft small">
              <template v-if="o.last_on">last {{ day(o.last_on) }}</template>
              <template v-if="o.out"> · {{ counted(o.out, 'jar') }} not paid for</template>
              <template v-if="o.deposits"> · {{ money(o.deposits, currency) }} deposits out</template>
            </div>
            <div v-if="o.keep_from.length" class="small keep">
              ▲ keep from:
              {{ o.keep_from.map((k) => k.replace('allergen:', '').replaceAll('-', ' ')).join(', ') }}
            </div>
          </li>
        </ul>
        <p v-if="isOwner" class="soft small">
          This is no bookkeeping: tax is for whoever does your accounts.
        </p>
      </template>
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

.scroll {
  overflow-x: auto;
}

.who {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 320px;
  overflow: auto;
  padding: 18px 20px 40px;
}

.who ul {
  list-style: none;
  margin: 0 0 16px;
  padding: 0;
}

.who li {
  border-bottom: 1px solid var(--clay-line);
  padding: 8px 0;
}

.who li a {
  display: inline-block;
  min-height: 24px;
}

.keep {
  color: var(--ochre-ink);
}

@media (max-width: 900px) {
  .who {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
  }
}
</style>
