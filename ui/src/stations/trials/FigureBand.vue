<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { figures } from '../../words'

// A figure as it is used, over the band that is usual: the hatched bar is what is usual, the
// full one what is used, its stroke the likely value.
const props = defineProps<{ figure: Schemas['OwnFigure'] }>()
const WIDTH = 200
const usual = computed(() => props.figure.usual)
const ends = computed(() => {
  const all = [
    props.figure.low,
    props.figure.high,
    ...(usual.value ? [usual.value.low, usual.value.high] : []),
  ]
  const low = Math.min(...all)
  const high = Math.max(...all)
  const room = (high - low || high * 0.1) * 0.08
  return { low: low - room, high: high + room }
})
const x = (v: number) => ((v - ends.value.low) / (ends.value.high - ends.value.low)) * WIDTH
const band = computed(() => {
  const f = props.figure
  const range = f.high - f.low > f.value * 1e-6 ? ` (${figures(f.low)}–${figures(f.high)})` : ''
  return `${figures(f.value)} ${f.unit}${range}`
})
const label = computed(() =>
  usual.value
    ? `${band.value}; usual is ${figures(usual.value.low)} to ${figures(usual.value.high)}`
    : band.value,
)
</script>

<template>
  <span class="band">
    <span class="num">{{ band }}</span>
    <svg
      v-if="usual"
      :viewBox="`0 0 ${WIDTH} 14`"
      preserveAspectRatio="xMinYMid"
      role="img"
      :aria-label="label"
    >
      <rect
        class="usual"
        :x="x(usual.low)"
        y="1"
        :width="Math.max(1, x(usual.high) - x(usual.low))"
        height="12"
      />
      <rect
        class="used"
        :x="x(figure.low)"
        y="4"
        :width="Math.max(2, x(figure.high) - x(figure.low))"
        height="6"
      />
      <line class="likely" :x1="x(figure.value)" :x2="x(figure.value)" y1="0" y2="14" />
    </svg>
  </span>
</template>

<style scoped>
.band {
  display: block;
}

svg {
  display: block;
  height: 14px;
  margin-top: 2px;
  max-width: 220px;
  width: 100%;
}

.usual {
  fill: none;
  stroke: var(--ink-soft);
  stroke-dasharray: 3 3;
}

.used {
  fill: var(--cobalt);
  opacity: 0.55;
}

.likely {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
