<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import { counted, day, grams, sentence } from '../../words'
import CalendarAddress from './CalendarAddress.vue'
import LimitsForm from './LimitsForm.vue'
import OrderSide from './OrderSide.vue'
import PlanBand from './PlanBand.vue'
import { usePlan } from './queries'
import WhatIf from './WhatIf.vue'

// What to make when, so that it is ready on its day; what would be if something were otherwise
// is shown in its place, and said in words, before anything is changed.
const client = useQueryClient()
const { data: plan, isPending, error, refetch } = usePlan()
const old = () => void client.invalidateQueries({ queryKey: ['almanac'] })

/** What is tried: a making on another day, or something else that would be otherwise. */
const moved = ref<Schemas['PlanPin']>()
const asked = ref<Schemas['PlanIf']>()
const would = computed<Schemas['PlanIf'] | undefined>(() =>
  moved.value ? { pins: [moved.value] } : asked.value,
)
const settled = useSettled(would, 60, true)
const {
  data: tried,
  error: notTried,
  isPlaceholderData: stillAsking,
} = useQuery({
  queryKey: computed(() => ['almanac', 'if', moved.value?.id ?? '', settled.value]),
  queryFn: () => ask(api.POST('/api/plan/if', { body: settled.value ?? {} })),
  enabled: computed(() => !!settled.value),
  // while a mark is moved on, what stood before is shown; not that of another
  placeholderData: (last, query) => (query?.queryKey[2] === (moved.value?.id ?? '') ? last : undefined),
  retry: false,
})
const shown = computed(() => (would.value && tried.value ? tried.value.plan : plan.value))
function drop() {
  moved.value = asked.value = undefined
}

const pin = useMutation({
  mutationFn: (body: Schemas['PlanPin']) => ask(api.POST('/api/plan/pins', { body })),
  onSuccess: () => {
    moved.value = undefined
    old()
  },
})
const free = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/plan/pins/{id}', { params: { path: { id } } })),
  onSuccess: old,
})
/** Moves a making by days; one that was set before keeps its place among those that are. */
function move(making: Schemas['PlannedMaking'], bench: string) {
  if (!moved.value && making.bench === bench) return
  moved.value = {
    id: moved.value?.id ?? making.pin ?? crypto.randomUUID(),
    formula: making.formula,
    bench,
  }
}
const keepMoved = () => moved.value && pin.mutate(moved.value)

const chosen = ref<string>()
const late = computed(() => (shown.value?.orders ?? []).filter((o) => o.late_days > 0 || o.given < o.jars))
const MOST_LATE = 6
/** The row whose day is being chosen: for fingers, to whom a mark on the band is small. */
const moving = ref<number>()
const vFocus = { mounted: (e: HTMLElement) => e.focus() }
const print = () => window.print()
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <template v-if="plan && shown">
        <p v-if="!shown.orders.length && !shown.makings.length" class="empty">
          Nothing is ordered. Say an order beside, as it was said to you: it is worked back from its day
          through drying, steeping and the bench, within the days and vessels there are.
        </p>
        <PlanBand
          v-else
          :plan="shown"
          :chosen="chosen"
          :moved="moved"
          @choose="chosen = chosen === $event ? undefined : $event"
          @move="move"
          @keep="keepMoved"
          @drop="drop"
        />
        <section v-if="would" class="would" aria-live="polite">
          <h2>
            {{
              moved
                ? `If it is made on ${dayjs(moved.bench).format('dddd D MMMM')}`
                : 'What would be otherwise'
            }}
          </h2>
          <p v-if="notTried" class="bad" role="alert">{{ sentence(notTried) }}</p>
          <p v-else-if="!tried || stillAsking" class="soft">Working it out …</p>
          <ul v-else-if="tried.changes.length">
            <li v-for="c in tried.changes" :key="c">{{ c }}</li>
          </ul>
          <p v-else>Nothing else changes.</p>
          <p v-if="pin.error.value" class="bad" role="alert">{{ sentence(pin.error.value) }}</p>
          <p class="acts">
            <Button v-if="moved" type="primary" :loading="pin.isPending.value" @click="keepMoved"
              >Set it to that day</Button
            >
            <Button @click="drop">{{ moved ? 'Leave it where it was' : 'Back to how it is' }}</Button>
          </p>
        </section>
        <div v-if="shown.unkept?.length" class="late" role="status">
          <p v-for="u in shown.unkept" :key="u.id + u.bench">
            ■ {{ u.name }} on {{ day(u.bench) }} cannot be: {{ u.says }}
            <button
              v-if="!would"
              class="plain do no-print"
              type="button"
              :name="`free-${u.name}`"
              @click="free.mutate(u.id)"
            >
              leave it to the plan<span class="unseen">: {{ u.name }}, {{ day(u.bench) }}</span>
            </button>
          </p>
        </div>
        <div v-if="late.length" class="late" role="status">
          <p v-for="o in late.slice(0, MOST_LATE)" :key="(o.order ?? o.name) + o.day">
            ■ {{ o.jars }} {{ o.name }}<template v-if="o.to"> for {{ o.to }}</template
            ><template v-if="o.usual">, which usually go</template>, {{ day(o.day) }}:
            <template v-if="o.given < o.jars">only {{ o.given }} can be given within the plan.</template>
            <template v-else>{{ counted(o.late_days, 'day') }} late.</template>
          </p>
          <p v-if="late.length > MOST_LATE">and {{ late.length - MOST_LATE }} more.</p>
          <p v-for="l in shown.lifts" :key="l.says">What would help: {{ l.says }}</p>
        </div>
        <ul v-if="shown.unknown.length" class="unknown small">
          <li v-for="u in shown.unknown" :key="u">▲ {{ u }}</li>
        </ul>
        <WhatIf class="no-print" :plan="plan" @would="asked = $event" @kept="drop" />
        <h2 v-if="shown.makings.length || shown.under_way?.length" class="list">
          What to make
          <span class="spring" />
          <Button class="no-print" size="small" @click="print">Print</Button>
        </h2>
        <table v-if="shown.makings.length || shown.under_way?.length" class="rows">
          <thead>
            <tr>
              <th scope="col">at the bench</th>
              <th scope="col">what</th>
              <th scope="col" class="right">jars</th>
              <th scope="col" class="right">hands<AboutThis of="planHands" /></th>
              <th scope="col">stands<AboutThis of="planStands" /></th>
              <th scope="col">ready</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="u in shown.under_way" :key="u.batch" class="soft">
              <td>under way</td>
              <td>
                <RouterLink :to="`/bench/${u.batch}`">{{ u.name }} {{ u.code }}</RouterLink>
              </td>
              <td class="right num">{{ u.grams ? grams(u.grams) : u.jars }}</td>
              <td />
              <td class="small">{{ u.vessel }}</td>
              <td>{{ u.ready ? dayjs(u.ready).format('ddd D MMM') : 'not known' }}</td>
            </tr>
            <tr v-for="(m, i) in shown.makings" :key="i" :class="{ on: chosen === m.formula }">
              <td>
                <input
                  v-if="moving === i"
                  v-focus
                  class="plain-field"
                  type="date"
                  :value="m.bench"
                  :aria-label="`The day that ${m.name} is made on`"
                  @change="move(m, ($event.target as HTMLInputElement).value)"
                  @blur="moving = undefined"
                />
                <button
                  v-else
                  class="plain day"
                  type="button"
                  :title="`Make ${m.name} on another day`"
                  @click="moving = i"
                >
                  {{ dayjs(m.bench).format('ddd D MMM') }}
                </button>
                <button
                  v-if="m.pin && !would"
                  class="plain do no-print"
                  type="button"
                  title="Set by hand; leave it to the plan again"
                  :name="`free-${m.name}`"
                  @click="free.mutate(m.pin)"
                >
                  set<span class="unseen">: leave {{ m.name }} to the plan again</span>
                </button>
              </td>
              <td>
                <RouterLink :to="`/crock/${m.formula}?panel=make`">{{ m.name }}</RouterLink>
                <div v-if="m.into?.length" class="soft small">goes into {{ m.into.join(', ') }}</div>
                <div v-if="m.together" class="soft small">{{ m.together }}</div>
              </td>
              <td class="right num">{{ m.grams ? grams(m.grams) : m.jars }}</td>
              <td class="right num">{{ m.minutes ? `${Math.round(m.minutes)} min` : '' }}</td>
              <td class="soft small">
                {{
                  m.stands
                    .map((s) => `${s.step?.toLowerCase()} until ${dayjs(s.to.slice(0, 19)).format('D MMM')}`)
                    .join(', ')
                }}
              </td>
              <td>{{ dayjs(m.ready).format('ddd D MMM') }}</td>
            </tr>
          </tbody>
        </table>
        <LimitsForm :plan="plan" />
        <CalendarAddress />
      </template>
    </section>
    <OrderSide :plan="plan" />
  </div>
</template>

<style scoped>
h2 {
  margin: 18px 0 8px;
}

.list {
  align-items: baseline;
  display: flex;
}

.spring {
  flex: 1;
}

.would {
  background: var(--cobalt-wash);
  border-left: 4px solid var(--cobalt);
  margin: 12px 0;
  padding: 8px 14px 10px;
}

.would h2 {
  margin-top: 0;
}

.would ul {
  margin: 0 0 8px;
  padding-left: 20px;
}

.acts {
  display: flex;
  gap: 8px;
  margin: 8px 0 0;
}

.do {
  color: var(--cobalt);
  font-size: 13px;
  min-height: 24px;
  text-decoration: underline;
}

.day {
  min-height: 32px;
  text-align: left;
  text-decoration: underline dotted;
}

.late {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  margin: 12px 0;
  padding: 8px 12px;
}

.late p {
  margin: 0 0 4px;
}

.unknown {
  color: var(--ochre-ink);
  list-style: none;
  margin: 10px 0 14px;
  padding: 0;
}

tr.on {
  background: var(--cobalt-wash);
}
</style>
