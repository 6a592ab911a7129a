<script setup lang="ts">
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { day, grams } from '../../words'
import { lanes } from './lanes'

// One band of time: days across, a row for the bench and one for each vessel; a making is a
// mark at the bench and a bar where it stands. What is asked for stands on top, on its day. A mark
// at the bench is dragged to another day, or moved there by the arrow keys: whoever shows the band
// is told, and says what would be; Enter keeps it, Escape drops it.
const props = defineProps<{
  plan: Schemas['GoodPlan']
  chosen?: string
  moved?: Schemas['PlanPin']
}>()
const emit = defineEmits<{
  choose: [formula: string]
  move: [making: Making, bench: string]
  keep: []
  drop: []
}>()
type Making = Schemas['PlannedMaking']
interface Mark {
  from: number
  to: number
  /** None of what is under way. */
  making?: Making
  bench: boolean
  says: string
  key: string
}

const left = 96
/** On a phone the next three weeks in letters that can be read; the list below has the rest. */
const narrow = matchMedia('(max-width: 700px)').matches
const wide = narrow ? 480 : 1000
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
  return Math.min(props.plan.days, narrow ? 21 : last + 3)
})
const at = (time: string) => dayjs(time).diff(today.value, 'hour') / 24
const x = (d: number) => left + (Math.min(Math.max(d, 0), days.value) / days.value) * (wide - left)

const isMoved = (m: Making) => !!props.moved && m.pin === props.moved.id
/** The mark that is held: where it was taken, and whether it was dragged since. */
const held = ref<{ making: Making; day: number; from: number; dragged: boolean }>()
const svg = ref<SVGSVGElement>()
const daysAcross = (from: number, to: number) => {
  const width = svg.value?.getBoundingClientRect().width ?? wide
  return Math.round(((to - from) / width) * (wide / (wide - left)) * days.value)
}
function toDay(making: Making, d: number) {
  const within = Math.min(Math.max(d, 0), props.plan.days - 1)
  if (!props.moved) heldKey.value = keys.value.get(making) ?? ''
  emit('move', making, today.value.add(within, 'day').format('YYYY-MM-DD'))
}
function take(making: Making, e: PointerEvent) {
  held.value = { making, day: at(making.bench), from: e.clientX, dragged: false }
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function drag(e: PointerEvent) {
  const h = held.value
  if (!h) return
  const by = daysAcross(h.from, e.clientX)
  if (!by && !h.dragged) return
  h.dragged = true
  toDay(h.making, h.day + by)
}
function release() {
  const h = held.value
  held.value = undefined
  if (h && !h.dragged) emit('choose', h.making.formula)
}
/** The key of the mark that is moved: it stays the same element, so that it keeps the focus. */
const heldKey = ref('')
const isThere = computed(() => props.plan.makings.some(isMoved))
const keys = computed(() => {
  const seen: Record<string, number> = {}
  return new Map(
    props.plan.makings.map((m) => {
      const of = m.pin ?? m.formula
      const n = (seen[of] = (seen[of] ?? 0) + 1)
      return [m, isMoved(m) ? heldKey.value : `${isThere.value ? 'beside ' : ''}${of} ${n}`]
    }),
  )
})

/** Moves with the arrow keys: from where it is, or was moved to. */
function step(making: Making, by: number) {
  const on = props.moved && keys.value.get(making) === heldKey.value ? props.moved.bench : making.bench
  toDay(making, at(on) + by)
}

const rows = computed(() => {
  const bench = lanes<Mark>(
    props.plan.makings
      .filter((m) => at(m.bench) < days.value)
      .map((m) => ({
        key: keys.value.get(m) ?? '',
        from: at(m.bench),
        to: at(m.bench) + 1,
        making: m,
        bench: true,
        says: `${m.name}: ${m.grams ? grams(m.grams) : `${m.jars} jars`}, at the bench on ${day(m.bench)}${m.minutes ? `, ${Math.round(m.minutes)} min` : ''}${m.pin ? ', set by hand' : ''}`,
      })),
  )
  const of = [{ name: 'at the bench', ...bench }]
  for (const vessel of props.plan.vessels) {
    const bars = props.plan.makings.flatMap((m) =>
      m.stands
        .filter((s) => s.vessel === vessel && at(s.from.slice(0, 19)) < days.value)
        .map((s) => ({
          key: `${keys.value.get(m)} ${s.from}`,
          from: at(s.from.slice(0, 19)),
          to: at(s.to.slice(0, 19)),
          making: m,
          bench: false,
          says: `${m.name}: ${s.step?.toLowerCase() ?? 'stands'} in ${vessel}, ${day(s.from)} to ${day(s.to)}`,
        })),
    )
    const under = (props.plan.under_way ?? []).flatMap((u) =>
      u.vessel === vessel && u.to
        ? [
            {
              key: u.batch,
              from: 0,
              to: Math.max(0.4, at(u.to.slice(0, 19))),
              making: undefined,
              bench: false,
              says: `${u.name} ${u.code}: under way, until ${day(u.to)}`,
            },
          ]
        : [],
    )
    of.push({ name: vessel, ...lanes<Mark>([...under, ...bars]) })
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
  props.plan.orders
    .filter((o) => at(o.day) <= days.value)
    .map((o) => ({
      ...o,
      x: x(at(o.day)),
      says: `${o.jars} ${o.name}${o.to ? ` for ${o.to}` : ''}, ${day(o.day)}${o.late_days ? `, ${o.late_days} days late` : ''}`,
    })),
)
const short = (name: string, width: number) => (width > name.length * 7.5 + 8 ? name : '')
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${wide} ${high}`"
    role="group"
    aria-label="The plan as a band of time; the list below has it in words"
  >
    <g v-for="w in weeks" :key="w.x">
      <line :x1="w.x" :x2="w.x" :y1="22" :y2="high" class="week" />
      <text :x="w.x + 3" y="16">{{ w.name }}</text>
    </g>
    <line :x1="left" :x2="left" y1="22" :y2="high" class="today" />
    <g
      v-for="o in orders"
      :key="`${o.order ?? o.name} ${o.day}`"
      class="order"
      :class="{ late: o.late_days > 0 || o.given < o.jars, usual: o.usual }"
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
        v-for="b in r.bars"
        :key="b.key"
        class="bar"
        :class="{
          chosen: b.making && chosen === b.making.formula,
          under: !b.making,
          set: b.making?.pin,
          moved: b.making && isMoved(b.making),
          bench: b.bench,
        }"
        :tabindex="b.bench ? 0 : undefined"
        :role="b.bench ? 'button' : undefined"
        :aria-label="b.bench ? `${b.says}; arrow keys move it` : undefined"
        @click="b.making && !b.bench && $emit('choose', b.making.formula)"
        @pointerdown="b.making && b.bench && take(b.making, $event)"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="((held = undefined), $emit('drop'))"
        @keydown.left.prevent="b.making && b.bench && step(b.making, -1)"
        @keydown.right.prevent="b.making && b.bench && step(b.making, 1)"
        @keydown.enter.prevent="
          b.making && b.bench && (moved ? $emit('keep') : $emit('choose', b.making.formula))
        "
        @keydown.esc="$emit('drop')"
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
          {{ short(b.making?.name ?? 'under way', x(b.to) - x(b.from)) }}
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

.bar.bench {
  cursor: grab;
  touch-action: none;
}

.bar.bench:focus-visible {
  outline: none;
}

.bar.bench:focus-visible rect {
  stroke: var(--ink);
  stroke-width: 3;
}

.bar.under rect {
  fill: var(--slip-sunk, var(--slip-raised));
  stroke: var(--clay-line);
}

.bar.set rect {
  stroke-width: 2.6;
}

.bar.moved rect {
  fill: var(--cobalt);
}

.bar.moved text {
  fill: var(--on-cobalt);
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

.order.usual path,
.order.usual line {
  opacity: 0.45;
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
