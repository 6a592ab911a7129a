<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'

// Each pair a line from nothing to its difference, with the interval under them: the picture that
// belongs to every p-value.
const props = defineProps<{ comparison: Schemas['TrialComparison']; measure?: string }>()
const wide = 640
const left = 8
const sorted = computed(() => [...props.comparison.differences].sort((a, b) => a - b))
const most = computed(() =>
  Math.max(
    1,
    ...props.comparison.differences.map(Math.abs),
    Math.abs(props.comparison.low ?? 0),
    Math.abs(props.comparison.high ?? 0),
  ),
)
const x = (v: number) => wide / 2 + (v / most.value) * (wide / 2 - left)
const row = computed(() => Math.min(14, 220 / Math.max(1, sorted.value.length)))
const high = computed(() => 26 + sorted.value.length * row.value + 34)
const base = computed(() => 26 + sorted.value.length * row.value + 12)
</script>

<template>
  <svg
    :viewBox="`0 0 ${wide} ${high}`"
    role="img"
    :aria-label="`Differences of ${comparison.pairs} pairs: ${sorted.join(', ')}`"
  >
    <text :x="wide / 2 - 8" y="14" text-anchor="end">{{ comparison.good }} lower</text>
    <text :x="wide / 2 + 8" y="14">higher</text>
    <line :x1="wide / 2" :x2="wide / 2" y1="20" :y2="base + 14" class="none" />
    <g v-for="(d, i) in sorted" :key="i">
      <line :x1="wide / 2" :x2="x(d)" :y1="26 + i * row" :y2="26 + i * row" class="pair" />
      <circle :cx="x(d)" :cy="26 + i * row" r="3.5" />
    </g>
    <line :x1="x(comparison.low ?? 0)" :x2="x(comparison.high ?? 0)" :y1="base" :y2="base" class="interval" />
    <path :d="`M${x(comparison.value ?? 0)} ${base - 7}l6 7-6 7-6-7z`" class="value" />
    <text :x="x(comparison.low ?? 0)" :y="base + 20" text-anchor="middle">{{ comparison.low }}</text>
    <text
      v-if="comparison.high !== comparison.low"
      :x="x(comparison.high ?? 0)"
      :y="base + 20"
      text-anchor="middle"
    >
      {{ comparison.high }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 640px;
  width: 100%;
}

text {
  fill: var(--ink-soft);
  font: 13px var(--text);
}

.none {
  stroke: var(--ink);
}

.pair {
  stroke: var(--cobalt);
  stroke-width: 1.5;
}

circle {
  fill: var(--cobalt);
}

.interval {
  stroke: var(--ink);
  stroke-width: 4;
}

.value {
  fill: var(--ink);
}
</style>
