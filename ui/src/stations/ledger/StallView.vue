<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sendOrKeep, waiting } from '../../api/outbox'
import { isOwner } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import { counted, day, money, sentence } from '../../words'
import StallEnd from './StallEnd.vue'
import StallStart from './StallStart.vue'

// A day at a stall, on a phone: each jar that goes is one tap, also while the line is down.
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['ledger', 'stall'],
  queryFn: () => ask(api.GET('/api/stall-days')),
  meta: { what: 'the day at the stall' },
})
const open = computed(() => data.value?.find((d) => d.open))
const earlier = computed(() => (data.value ?? []).filter((d) => !d.open))
const beginning = ref(false)
const ending = ref(false)

type Sale = Schemas['StallSale']
/** What waits to be sent of this day: it is counted at once. */
const unsent = computed(() =>
  waiting.value
    .filter((k) => k.path === '/api/stall-days/{id}/sales' && k.batch === open.value?.id)
    .map((k) => k.body as Sale),
)
const more = (formula: string, kind: Sale['kind']) =>
  unsent.value.filter((s) => s.formula === formula && s.kind === kind).length
const goods = computed(() =>
  (open.value?.goods ?? []).map((g) => {
    const back = more(g.formula, 'returned')
    const sold = Math.max(0, g.sold + more(g.formula, 'sold') - back)
    const given = g.given + more(g.formula, 'given')
    return { ...g, sold, given, left: g.out - sold - given - g.back }
  }),
)
const brought = computed(() => {
  const waits = unsent.value.reduce((sum, s) => {
    const price = Number(open.value?.goods.find((g) => g.formula === s.formula)?.price ?? 0)
    return sum + (s.kind === 'sold' ? price : 0)
  }, 0)
  return String(Number(open.value?.brought ?? 0) + waits)
})

const last = ref('')
const tap = useMutation({
  async mutationFn({ good, kind }: { good: Schemas['StallGood']; kind: Sale['kind'] }) {
    const said = `${kind === 'returned' ? 'took back a sale of' : kind} one ${good.name} at ${open.value?.outlet_name}`
    const after = await sendOrKeep(
      open.value?.id ?? '',
      '/api/stall-days/{id}/sales',
      { formula: good.formula, kind },
      said,
    )
    last.value = `${said[0]?.toUpperCase()}${said.slice(1)}${after ? '.' : ', kept here until the line is back.'}`
    return after
  },
  onSuccess: (after) => {
    if (after)
      client.setQueryData(['ledger', 'stall'], (was: Schemas['StallDay'][] | undefined) =>
        was?.map((d) => (d.id === after.id ? after : d)),
      )
  },
})
</script>

<template>
  <section class="stall">
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <template v-if="open && !ending">
      <header>
        <h2>{{ open.outlet_name }}</h2>
        <span class="soft">{{ day(open.day) }}</span>
        <span class="spring" />
        <span class="num big" aria-live="polite">{{ money(brought, open.currency) }}</span>
      </header>
      <p v-if="isOwner && open.break_even !== undefined" class="soft small">
        {{ counted(open.break_even, 'jar') }} bring in fee and fuel;
        {{ open.sold + unsent.filter((s) => s.kind === 'sold').length }} are sold.
      </p>
      <ul class="goods">
        <li v-for="g in goods" :key="g.formula">
          <button
            class="plain sell"
            type="button"
            :disabled="g.left < 1"
            :name="`sell-${g.name}`"
            @click="tap.mutate({ good: g, kind: 'sold' })"
          >
            <strong><span class="unseen">Sell one </span>{{ g.name }}</strong>
            <span class="num">{{ g.price ? money(g.price, open.currency) : 'no price' }}</span>
            <span class="left"
              >{{ g.left }} left · {{ g.sold }} sold<template v-if="g.given">
                · {{ g.given }} given</template
              ></span
            >
          </button>
          <div class="side">
            <button
              class="plain do"
              type="button"
              :disabled="g.left < 1"
              :aria-label="`Give one ${g.name}`"
              @click="tap.mutate({ good: g, kind: 'given' })"
            >
              give
            </button>
            <button
              class="plain do"
              type="button"
              :disabled="g.sold + g.given < 1"
              :aria-label="`Take back the last ${g.name}`"
              @click="tap.mutate({ good: g, kind: 'returned' })"
            >
              take back
            </button>
          </div>
        </li>
      </ul>
      <p role="status" class="soft">{{ last }}</p>
      <p v-if="tap.error.value" class="bad" role="alert">{{ sentence(tap.error.value) }}</p>
      <Button size="large" @click="ending = true">Home: count what is left and the takings</Button>
    </template>
    <StallEnd v-else-if="open && ending" :day="open" @leave="ending = false" @ended="ending = false" />
    <StallStart v-else-if="data && beginning" @leave="beginning = false" @begun="beginning = false" />
    <template v-else-if="data">
      <h2>A day at the stall</h2>
      <p>What goes out in the morning, what is sold there, what comes home, what it brought.</p>
      <Button type="primary" size="large" @click="beginning = true">Take jars out</Button>
    </template>
    <section v-if="earlier.length && !beginning" aria-labelledby="earlier">
      <h3 id="earlier">Earlier days</h3>
      <div class="scroll">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">day</th>
              <th scope="col" class="right">out</th>
              <th scope="col" class="right">sold</th>
              <th scope="col" class="right">asked<AboutThis of="stallAsked" /></th>
              <th scope="col" class="right">counted</th>
              <th v-if="isOwner" scope="col" class="right">left</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in earlier" :key="d.id">
              <td>
                {{ day(d.day) }}
                <div class="soft small">
                  {{ d.outlet_name }}<template v-if="d.note">: {{ d.note }}</template>
                </div>
                <div v-if="d.missing" class="small watch">▲ {{ counted(d.missing, 'jar') }} missing</div>
              </td>
              <td class="right num">{{ d.out }}</td>
              <td class="right num">{{ d.sold }}</td>
              <td class="right num">{{ money(d.brought, d.currency) }}</td>
              <td class="right num">
                {{ d.takings ? money(d.takings, d.currency) : 'not counted' }}
                <div v-if="d.short && Number(d.short) !== 0" class="soft small">
                  {{ money(String(Math.abs(Number(d.short))), d.currency) }}
                  {{ Number(d.short) > 0 ? 'short' : 'over' }}
                </div>
              </td>
              <td v-if="isOwner" class="right num" :class="{ stop: Number(d.left) < 0 }">
                {{ money(d.left, d.currency) }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="isOwner" class="soft small">
        Left is what was brought, less fee, fuel and what the jars cost in materials and packaging.
      </p>
    </section>
  </section>
</template>

<style scoped>
.stall {
  max-width: 720px;
  overflow: auto;
  padding: 18px 24px 40px;
}

header {
  align-items: baseline;
  display: flex;
  gap: 12px;
}

.spring {
  flex: 1;
}

.big {
  font-size: 30px;
  font-weight: 600;
}

.goods {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  list-style: none;
  margin: 12px 0;
  padding: 0;
}

.goods li {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  display: flex;
}

.sell {
  display: grid;
  flex: 1;
  gap: 0 10px;
  grid-template-columns: 1fr auto;
  min-height: 84px;
  padding: 12px 14px;
}

.sell strong,
.sell .num {
  font: 600 20px var(--slab);
}

.sell .left {
  color: var(--ink-soft);
  grid-column: 1 / -1;
}

.sell:active {
  background: var(--cobalt-wash);
}

.sell:disabled {
  cursor: default;
  opacity: 0.55;
}

.side {
  border-left: 1px solid var(--clay-line);
  display: flex;
  flex-direction: column;
}

.side button {
  color: var(--cobalt);
  flex: 1;
  min-height: 42px;
  padding: 0 12px;
  text-align: center;
}

.side button:disabled {
  color: var(--ink-soft);
  cursor: default;
}

.side button + button {
  border-top: 1px solid var(--clay-line);
}

h3 {
  margin: 26px 0 6px;
}

.scroll {
  overflow-x: auto;
}

.watch {
  color: var(--ochre-ink);
}

.stop {
  color: var(--oxblood);
}

@media (max-width: 900px) {
  .stall {
    overflow: visible;
    padding: 12px 16px 30px;
  }
}
</style>
