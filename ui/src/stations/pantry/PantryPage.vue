<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useGood, usePantry } from '../../api/queries'
import { canMake } from '../../api/session'
import ListHead from '../../parts/ListHead.vue'
import Looking from '../../parts/Looking.vue'
import { remembered } from '../../parts/remembered'
import SortedBy from '../../parts/SortedBy.vue'
import { holds } from '../../parts/table'
import { useWhole } from '../../parts/useWhole'
import { takeAlong } from '../../takeAlong'
import { count, day, fromNow, grams, moneyAtLeast, sentence } from '../../words'
import CardFinder from './CardFinder.vue'
import GoodPage from './GoodPage.vue'
import GoodsPanel from './GoodsPanel.vue'
import { inOrder, isIn, orders, states, stateWords, type Order, type State } from './goods'

const route = useRoute()
const router = useRouter()
// What is looked for, and how it stands; remembered by this browser.
const wanted = ref('')
const view = remembered('pantry', { kind: '', state: 'left' as State, by: 'made' as Order })
const everything = computed(() => view.value.state === 'ever')
const list = usePantry(everything)
const { goods, error, isPending, refetch, hasNextPage, fetchNextPage, isFetching } = list
const narrowed = computed(
  () => !!wanted.value || !!view.value.kind || !['left', 'ever'].includes(view.value.state),
)
const kinds = computed(() => [
  { value: '', label: 'all kinds' },
  ...[...new Map((goods.value ?? []).map((g) => [g.kind, g.kind_name ?? g.kind]))].map(([value, label]) => ({
    value,
    label,
  })),
])
const shown = computed(() => {
  const found = (goods.value ?? []).filter(
    (g) =>
      (!view.value.kind || g.kind === view.value.kind) &&
      isIn(view.value.state, g) &&
      holds(`${g.name} ${g.code} ${g.kind_name ?? ''}`, wanted.value),
  )
  return inOrder(view.value.by, found)
})
function showAll() {
  wanted.value = ''
  Object.assign(view.value, { kind: '', state: 'left' })
}
// those with jars left are few enough to be read to the end
const taking = useWhole(
  list,
  () => !everything.value || narrowed.value || view.value.by !== 'made',
  () => ({
    file: 'pantry',
    head: 'good,kind,code,made,best before,state,jars,left,grams,cost a jar,currency'.split(','),
    rows: shown.value.map((g) => [
      g.name,
      g.kind_name,
      g.code,
      g.made,
      g.best_before,
      stateWords[g.state],
      g.jars,
      g.left,
      g.jars ? g.each_g : g.bulk_g,
      g.cost_per_jar,
      g.currency,
    ]),
  }),
  takeAlong,
)
/** The batch that stands open; “cards” is none. */
const batch = computed(() => String(route.params.batch ?? ''))
const { data: open, error: missing } = useGood(() => (batch.value === 'cards' ? '' : batch.value))

const tones = { good: 'good', soon: 'watch', past: 'stop' } as const
</script>

<template>
  <section v-if="batch === 'cards'" class="card-page">
    <header class="head no-print">
      <RouterLink to="/pantry">Pantry</RouterLink>
      <h1>Use cards</h1>
      <span class="soft">which of yours, how strong, how long, and on what never</span>
    </header>
    <CardFinder />
  </section>
  <GoodPage v-else-if="route.params.view" :key="batch" />
  <div v-else class="beside">
    <section class="main-part">
      <header class="head">
        <h1>Pantry</h1>
        <RouterLink class="no-print" to="/pantry/cards">Use cards: which of mine?</RouterLink>
        <RouterLink v-if="canMake" class="no-print" to="/settings/sheets?what=jars"
          >Bring in jars made before</RouterLink
        >
      </header>
      <p v-if="route.params.batch && missing" class="bad" role="alert">{{ sentence(missing) }}</p>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <ListHead
        v-if="goods?.length || view.state !== 'left'"
        v-model="wanted"
        what="good"
        placeholder="name, code, kind"
        :total="goods?.length ?? 0"
        :shown="shown.length"
        :more="hasNextPage"
        :finding="isFetching && (narrowed || !!taking)"
        printed
        @all="showAll"
        @take="taking = $event"
      >
        <SortedBy v-model="view.kind" label="Which kind" :options="kinds" />
        <SortedBy v-model="view.state" label="Which goods" :options="states" />
        <SortedBy v-model="view.by" label="In which order" :options="orders" />
      </ListHead>
      <p v-if="goods?.length && !shown.length" class="soft">None of them is like that.</p>
      <p v-if="goods?.length === 0" class="empty">
        No finished goods yet. <RouterLink to="/crock">Choose a formula</RouterLink>, size it, and weigh it
        out at the bench.
      </p>
      <ul class="goods">
        <li v-for="g in shown" :key="g.batch">
          <button
            class="plain lot-row"
            type="button"
            :class="{ open: g.batch === open?.batch }"
            @click="router.push(`/pantry/${g.batch}`)"
          >
            <span class="what">
              <strong>{{ g.name }}</strong>
              <span class="soft small">{{ g.kind_name }} · {{ g.code }} · made {{ fromNow(g.made) }}</span>
              <span v-if="g.jars" class="jars" :aria-label="`${g.left} of ${g.jars} jars left`">
                <svg v-for="j in g.jar_list" :key="j.id" viewBox="0 0 10 14" :class="{ gone: j.gone }">
                  <path d="M2 1h6v2l1 2v7.5H1V5l1-2z" />
                </svg>
              </span>
            </span>
            <span v-if="g.jars" class="fig">
              <span class="num big">{{ g.left }}</span>
              <span class="soft small">of {{ g.jars }} jars, {{ grams(g.each_g) }} each</span>
            </span>
            <span v-else class="fig">
              <span class="num big">{{ grams(g.bulk_g ?? 0) }}</span>
              <span class="soft small">half-made, to go into others</span>
            </span>
            <span class="fig">
              <span class="num mid">{{ day(g.best_before) }}</span>
              <span class="mark" :class="tones[g.state]">{{ stateWords[g.state] }}</span>
              <span v-if="g.warns" class="mark watch" :title="g.warns">look at it first</span>
              <span class="soft small reason">{{ g.best_before_reason }}</span>
            </span>
            <span class="fig">
              <span class="num mid">{{
                moneyAtLeast(g.jars ? g.cost_per_jar : g.cost, g.currency, g.unpriced)
              }}</span>
              <span class="soft small">
                {{ g.jars ? 'a jar' : 'all that was made'
                }}<template v-if="g.cost_per_use"
                  >, {{ moneyAtLeast(g.cost_per_use, g.currency, g.unpriced) }} a use</template
                >
              </span>
              <span v-if="g.uses_left" class="soft small">about {{ count(g.uses_left) }} uses left</span>
            </span>
          </button>
        </li>
      </ul>
      <button
        v-if="hasNextPage"
        type="button"
        class="plain more"
        :disabled="isFetching"
        @click="fetchNextPage()"
      >
        more
      </button>
    </section>
    <GoodsPanel
      v-if="open && open.batch === route.params.batch"
      :key="open.batch"
      :goods="open"
      @leave="router.push('/pantry')"
    />
  </div>
</template>

<style scoped>
.card-page {
  height: 100%;
  overflow: auto;
  padding: 18px 24px 40px;
}

.head {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  margin-bottom: 10px;
}

.goods {
  list-style: none;
  margin: 0;
  padding: 0;
}

.lot-row {
  border-bottom: 3px solid var(--clay-line);
  display: grid;
  gap: 18px;
  grid-template-columns: minmax(200px, 1.3fr) 150px minmax(170px, 1fr) 150px;
  padding: 14px 8px 10px;
  width: 100%;
}

.lot-row:hover,
.lot-row.open {
  background: var(--slip-raised);
  border-bottom-color: var(--clay);
}

.lot-row.open {
  border-bottom-color: var(--cobalt);
}

.what,
.fig {
  align-items: start;
  display: flex;
  flex-direction: column;
  gap: 2px;
}

.what strong {
  font-family: var(--slab);
  font-size: 20px;
}

.jars {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  margin-top: 4px;
}

.jars svg {
  fill: var(--clay);
  height: 20px;
  stroke: var(--ink);
  stroke-width: 0.7;
}

.jars svg.gone {
  fill: none;
  opacity: 0.35;
}

.big {
  font-size: 30px;
  font-weight: 600;
  line-height: 1;
}

.mid {
  font-size: 18px;
  font-weight: 600;
}

.reason {
  line-height: 1.3;
}

.more {
  color: var(--cobalt);
  padding: 12px 8px;
  text-decoration: underline;
}

.empty {
  margin-top: 40px;
}

@media (max-width: 700px) {
  .lot-row {
    gap: 8px 14px;
    grid-template-columns: 1fr auto;
  }

  .head {
    flex-wrap: wrap;
    gap: 4px 16px;
  }
}
</style>
