<script setup lang="ts">
import dayjs from 'dayjs'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { money } from '../../words'
import { between, ticks } from './scale'

// The months of a year: what was brought as a jar that fills, what that cost hatched at its
// bottom. The table below has them in figures.
const props = defineProps<{ months: Schemas['SumRow'][]; year: number; currency: string }>()

const wide = 760
const high = 280
const left = 60
const foot = 28
const top = 12
const each = (wide - left - 8) / 12
const rows = computed(() =>
  Array.from({ length: 12 }, (_, m) => {
    const at = `${props.year}-${String(m + 1).padStart(2, '0')}`
    const row = props.months.find((r) => r.currency === props.currency && r.month?.startsWith(at))
    return {
      name: dayjs(`${at}-01`).format('MMM'),
      brought: Number(row?.brought ?? 0),
      cost: Number(row?.sold_cost ?? 0),
      sold: row?.sold ?? 0,
    }
  }),
)
const steps = computed(() => ticks(Math.max(...rows.value.map((r) => Math.max(r.brought, r.cost)), 1)))
const y = (v: number) => between(v, 0, steps.value.at(-1) ?? 1, high - foot, top)
</script>

<template>
  <svg
    :viewBox="`0 0 ${wide} ${high}`"
    role="img"
    aria-label="What was brought each month, and what that cost; the table below has it in figures"
  >
    <defs>
      <pattern id="year-cost" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M0 6 6 0" stroke="var(--ink-soft)" stroke-width="1.2" />
      </pattern>
    </defs>
    <g v-for="t in steps" :key="t">
      <line :x1="left" :x2="wide" :y1="y(t)" :y2="y(t)" class="grid" />
      <text :x="left - 6" :y="y(t) + 4" class="right">{{ money(String(t), currency) }}</text>
    </g>
    <g v-for="(r, i) in rows" :key="r.name">
      <title>
        {{ r.name }}: {{ money(String(r.brought), currency) }} brought,
        {{ money(String(r.cost), currency) }} of it cost, {{ r.sold }} jars
      </title>
      <rect
        :x="left + i * each + 6"
        :width="each - 12"
        :y="y(r.brought)"
        :height="high - foot - y(r.brought)"
        class="brought"
      />
      <rect
        :x="left + i * each + 6"
        :width="each - 12"
        :y="y(r.cost)"
        :height="high - foot - y(r.cost)"
        fill="url(#year-cost)"
      />
      <line
        v-if="r.cost"
        :x1="left + i * each + 6"
        :x2="left + (i + 1) * each - 6"
        :y1="y(r.cost)"
        :y2="y(r.cost)"
        class="axis"
      />
      <text :x="left + (i + 0.5) * each" :y="high - 8" class="mid">{{ r.name }}</text>
    </g>
    <line :x1="left" :x2="wide" :y1="high - foot" :y2="high - foot" class="axis" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 900px;
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

.grid {
  stroke: var(--clay-line);
  stroke-width: 0.7;
}

.axis {
  stroke: var(--ink);
  stroke-width: 1.2;
}

.brought {
  fill: var(--celadon-wash);
  stroke: var(--celadon-ink);
  stroke-width: 1.5;
}
</style>
