<script setup lang="ts">
import dayjs from 'dayjs'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { day, money } from '../../words'
import { between, ticks } from './scale'

// What a kilogram cost over time, a line for each supplier; what jumped is marked. Lines are
// told apart by their marks and dashes, not by colour alone.
const props = defineProps<{ lines: Schemas['PriceLine'][]; active: boolean }>()

const wide = 720
const high = 300
const left = 56
const right = 16
const top = 14
const foot = 30
const marks = ['circle', 'square', 'diamond', 'triangle'] as const
const dashes = ['', '7 4', '2 4', '10 3 2 3']

const amount = (p: Schemas['PricePoint']) => Number((props.active && p.per_kg_active) || p.per_kg)
const points = computed(() => props.lines.flatMap((l) => l.points))
const days = computed(() => points.value.map((p) => dayjs(p.day).valueOf()))
const first = computed(() => Math.min(...days.value))
const last = computed(() => Math.max(...days.value, first.value + 86_400_000))
const steps = computed(() => ticks(Math.max(...points.value.map(amount), 0)))
const most = computed(() => steps.value.at(-1) ?? 1)
const x = (d: string) => between(dayjs(d).valueOf(), first.value, last.value, left + 8, wide - right - 8)
const y = (v: number) => between(v, 0, most.value, high - foot, top)
const drawn = computed(() =>
  props.lines.map((l, i) => ({
    line: l,
    mark: marks[i % marks.length],
    dash: dashes[i % dashes.length],
    at: l.points.map((p) => ({ x: x(p.day), y: y(amount(p)), p })),
  })),
)
const months = computed(() => {
  const out: { x: number; name: string }[] = []
  const whole = dayjs(last.value).diff(dayjs(first.value), 'month') + 1
  const every = Math.max(1, Math.ceil(whole / 8))
  for (
    let m = dayjs(first.value).startOf('month').add(1, 'month');
    m.valueOf() <= last.value;
    m = m.add(every, 'month')
  )
    out.push({ x: x(m.format('YYYY-MM-DD')), name: m.format(m.month() === 0 ? 'MMM YYYY' : 'MMM') })
  return out
})
const currency = computed(() => props.lines[0]?.currency ?? 'EUR')
</script>

<template>
  <svg
    :viewBox="`0 0 ${wide} ${high}`"
    role="img"
    aria-label="Prices a kilogram over time; the table below has them in figures"
  >
    <g v-for="t in steps" :key="t">
      <line :x1="left" :x2="wide - right" :y1="y(t)" :y2="y(t)" class="grid" />
      <text :x="left - 6" :y="y(t) + 4" class="right">{{ money(String(t), currency) }}</text>
    </g>
    <g v-for="m in months" :key="m.name + m.x">
      <line :x1="m.x" :x2="m.x" :y1="high - foot" :y2="high - foot + 5" class="axis" />
      <text :x="m.x" :y="high - 8" class="mid">{{ m.name }}</text>
    </g>
    <line :x1="left" :x2="wide - right" :y1="high - foot" :y2="high - foot" class="axis" />
    <g v-for="d in drawn" :key="d.line.supplier" class="line">
      <polyline :points="d.at.map((a) => `${a.x},${a.y}`).join(' ')" :stroke-dasharray="d.dash" />
      <g v-for="a in d.at" :key="a.p.lot + a.p.day">
        <title>
          {{ d.line.supplier }}, {{ day(a.p.day) }}: {{ money(String(amount(a.p)), currency) }} a kilogram,
          lot {{ a.p.lot }}
        </title>
        <circle v-if="d.mark === 'circle'" :cx="a.x" :cy="a.y" r="4.500" />
        <rect v-else-if="d.mark === 'square'" :x="a.x - 4" :y="a.y - 4" width="8" height="8" />
        <path v-else-if="d.mark === 'diamond'" :d="`M${a.x} ${a.y - 6}l6 6-6 6-6-6z`" />
        <path v-else :d="`M${a.x} ${a.y - 5.5}l5.5 10h-11z`" />
        <text v-if="a.p.jump" :x="a.x" :y="a.y - 11" class="mid jump">
          {{ a.p.jump > 0 ? '▲' : '▼' }} {{ Math.abs(Math.round(a.p.jump * 100)) }} %
        </text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 860px;
  width: 100%;
}

text {
  fill: var(--ink-soft);
  font: 12px var(--text);
}

.right {
  text-anchor: end;
}

.mid {
  text-anchor: middle;
}

.jump {
  fill: var(--oxblood);
  font-weight: 700;
}

.grid {
  stroke: var(--clay-line);
  stroke-width: 0.7;
}

.axis {
  stroke: var(--ink);
  stroke-width: 1.2;
}

.line polyline {
  fill: none;
  stroke: var(--cobalt);
  stroke-width: 2;
}

.line circle,
.line rect,
.line path {
  fill: var(--slip-raised);
  stroke: var(--cobalt);
  stroke-width: 2;
}
</style>
