<script setup lang="ts">
import dayjs from 'dayjs'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { day } from '../../words'
import { lanes } from './lanes'

// One band of time: days across, a row for the bench and one for each vessel; a making is a
// mark at the bench and a bar where it stands. What is asked for stands on top, on its day.
const props = defineProps<{ plan: Schemas['GoodPlan']; chosen?: string }>()
defineEmits<{ choose: [formula: string] }>()

const left = 96
const wide = 1000
const top = 58
const lane = 24

const today = computed(() => dayjs(props.plan.today))
/** As far as anything is planned, and no further than is needed to see it. */
const days = computed(() => {
  const last = Math.max(
    20,
    ...props.plan.makings.map((m) => dayjs(m.ready).diff(today.value, 'day')),
    ...props.plan.orders.map((o) => dayjs(o.day).diff(today.value, 'day')),
  )
  return Math.min(props.plan.days, last + 3)
})
const at = (time: string) => dayjs(time).diff(today.value, 'hour') / 24
const x = (d: number) => left + (Math.min(Math.max(d, 0), days.value) / days.value) * (wide - left)
const rows = computed(() => {
  const bench = lanes(
    props.plan.makings.map((m) => ({
      from: at(m.bench),
      to: at(m.bench) + 1,
      making: m,
      says: `${m.name}: ${m.jars} jars, at the bench on ${day(m.bench)}${m.minutes ? `, ${Math.round(m.minutes)} min` : ''}`,
    })),
  )
  const of = [{ name: 'at the bench', ...bench }]
  for (const vessel of props.plan.vessels) {
    const bars = props.plan.makings.flatMap((m) =>
      m.stands
        .filter((s) => s.vessel === vessel)
        .map((s) => ({
          from: at(s.from.slice(0, 19)),
          to: at(s.to.slice(0, 19)),
          making: m,
          says: `${m.name}: ${s.step?.toLowerCase() ?? 'stands'} in ${vessel}, ${day(s.from)} to ${day(s.to)}`,
        })),
    )
    of.push({ name: vessel, ...lanes(bars) })
  }
  let y = top
  return of.map((r) => {
    const row = { ...r, y, height: r.count * lane + 10 }
    y += row.height
    return row
  })
})
const high = computed(() => (rows.value.at(-1)?.y ?? top) + (rows.value.at(-1)?.height ?? 0) + 8)
const weeks = computed(() => {
  const out: { x: number; name: string }[] = []
  const every = days.value > 50 ? 2 : 1
  for (let d = (8 - today.value.day()) % 7; d < days.value; d += 7 * every)
    out.push({ x: x(d), name: today.value.add(d, 'day').format('D MMM') })
  return out
})
const orders = computed(() =>
  props.plan.orders.map((o) => ({
    ...o,
    x: x(at(o.day)),
    says: `${o.jars} ${o.name}${o.to ? ` for ${o.to}` : ''}, ${day(o.day)}${o.late_days ? `, ${o.late_days} days late` : ''}`,
  })),
)
const short = (name: string, width: number) => (width > name.length * 7.5 + 8 ? name : '')
</script>

<template>
  <svg
    :viewBox="`0 0 ${wide} ${high}`"
    role="img"
    aria-label="The plan as a band of time; the list below has it in words"
  >
    <g v-for="w in weeks" :key="w.x">
      <line :x1="w.x" :x2="w.x" :y1="22" :y2="high" class="week" />
      <text :x="w.x + 3" y="16">{{ w.name }}</text>
    </g>
    <line :x1="left" :x2="left" y1="22" :y2="high" class="today" />
    <g
      v-for="o in orders"
      :key="o.order + o.day"
      class="order"
      :class="{ late: o.late_days > 0 || o.given < o.jars }"
    >
      <title>{{ o.says }}</title>
      <path :d="`M${o.x - 6} 30h12l-6 11z`" />
      <line :x1="o.x" :x2="o.x" y1="40" :y2="high" />
    </g>
    <g v-for="r in rows" :key="r.name">
      <text x="0" :y="r.y + 20" class="row">
        {{ r.name.length > 14 ? `${r.name.slice(0, 13)}…` : r.name }}
      </text>
      <line :x1="0" :x2="wide" :y1="r.y" :y2="r.y" class="line" />
      <g
        v-for="(b, i) in r.bars"
        :key="i"
        class="bar"
        :class="{ chosen: chosen === b.making.formula }"
        @click="$emit('choose', b.making.formula)"
      >
        <title>{{ b.says }}</title>
        <rect
          :x="x(b.from)"
          :y="r.y + 5 + b.lane * lane"
          :width="Math.max(5, x(b.to) - x(b.from) - 1.5)"
          :height="lane - 4"
          rx="3"
        />
        <text :x="x(b.from) + 5" :y="r.y + 19 + b.lane * lane">
          {{ short(b.making.name, x(b.to) - x(b.from)) }}
        </text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}

text {
  fill: var(--ink-soft);
  font: 13px var(--text);
}

.row {
  fill: var(--ink);
  font: 600 13px var(--text);
}

.week,
.line {
  stroke: var(--clay-line);
  stroke-width: 1;
}

.today {
  stroke: var(--ink);
  stroke-width: 2;
}

.bar {
  cursor: pointer;
}

.bar rect {
  fill: var(--cobalt-wash);
  stroke: var(--cobalt);
  stroke-width: 1.2;
}

.bar text {
  fill: var(--ink);
  pointer-events: none;
}

.bar.chosen rect {
  fill: var(--cobalt);
}

.bar.chosen text {
  fill: var(--on-cobalt);
}

.order path {
  fill: var(--celadon-ink);
}

.order line {
  stroke: var(--celadon-ink);
  stroke-dasharray: 3 4;
}

.order.late path {
  fill: var(--oxblood);
}

.order.late line {
  stroke: var(--oxblood);
}
</style>
