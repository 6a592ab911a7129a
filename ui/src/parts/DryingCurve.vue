<script setup lang="ts">
import dayjs from 'dayjs'
import { computed } from 'vue'

import type { Schemas } from '../api/client'
import { grams } from '../words'

// What was weighed of something that dries, the curve through it, its end with the
// band it may be in, and when it is within half a per cent of that.
const props = defineProps<{ drying: Schemas['Drying'] }>()

const box = { left: 58, right: 372, top: 14, bottom: 170 }
const at = (t: string) => new Date(t).getTime()

const times = computed(() => {
  const all = [...props.drying.weighings, ...props.drying.curve].map((p) => at(p.at))
  const first = Math.min(...all)
  return { first, last: Math.max(...all, first + 3_600_000) }
})
const masses = computed(() => {
  const all = [...props.drying.weighings, ...props.drying.curve].map((p) => p.grams)
  const end = props.drying.end_g
  if (end && end.value > 0 && props.drying.curve.length) all.push(end.low, end.high)
  const least = Math.min(...all)
  const most = Math.max(...all)
  const room = Math.max(1, 0.06 * (most - least))
  return { least: least - room, most: most + room }
})
const x = (t: number) =>
  box.left + ((t - times.value.first) / (times.value.last - times.value.first)) * (box.right - box.left)
const y = (g: number) =>
  box.bottom - ((g - masses.value.least) / (masses.value.most - masses.value.least)) * (box.bottom - box.top)

const curve = computed(() =>
  props.drying.curve
    .map((p, i) => `${i ? 'L' : 'M'}${x(at(p.at)).toFixed(1)} ${y(p.grams).toFixed(1)}`)
    .join(''),
)
const band = computed(() => {
  const end = props.drying.end_g
  if (!end || !props.drying.curve.length) return undefined
  return { y: y(end.high), h: Math.max(1, y(end.low) - y(end.high)), value: y(end.value) }
})
const ready = computed(() =>
  props.drying.ready ? Math.min(box.right, x(at(props.drying.ready))) : undefined,
)

/** Round masses for the side. */
const marks = computed(() => {
  const span = masses.value.most - masses.value.least
  const step = [0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500].find((s) => span / s <= 5) ?? 1000
  const out: number[] = []
  for (let g = Math.ceil(masses.value.least / step) * step; g < masses.value.most; g += step) out.push(g)
  return out
})
/** Noons and midnights, or every few hours, for the foot. */
const hours = computed(() => {
  const span = (times.value.last - times.value.first) / 3_600_000
  const step = [1, 2, 4, 6, 12, 24, 48, 96].find((s) => span / s <= 6) ?? 168
  const out: { x: number; text: string }[] = []
  let t = dayjs(times.value.first).startOf('day')
  while (t.valueOf() < times.value.last && out.length < 40) {
    if (t.valueOf() >= times.value.first)
      out.push({ x: x(t.valueOf()), text: step >= 24 ? t.format('ddd') : t.format('HH:mm') })
    t = t.add(step, 'hour')
  }
  return out
})
</script>

<template>
  <figure class="drying">
    <svg
      viewBox="0 0 384 196"
      role="img"
      :aria-label="`Weights while it dries: ${drying.weighings.length} of them`"
    >
      <g class="grid">
        <g v-for="g in marks" :key="g">
          <line :x1="box.left" :x2="box.right" :y1="y(g)" :y2="y(g)" />
          <text :x="box.left - 6" :y="y(g) + 4" text-anchor="end">{{ g }} g</text>
        </g>
        <text v-for="h in hours" :key="h.x" :x="h.x" :y="box.bottom + 18" text-anchor="middle">
          {{ h.text }}
        </text>
      </g>
      <template v-if="band">
        <rect class="band" :x="box.left" :width="box.right - box.left" :y="band.y" :height="band.h" />
        <line class="end" :x1="box.left" :x2="box.right" :y1="band.value" :y2="band.value" />
      </template>
      <g v-if="ready !== undefined && curve">
        <line class="ready" :x1="ready" :x2="ready" :y1="box.top" :y2="box.bottom" />
        <text :x="ready - 5" :y="box.top + 10" text-anchor="end" class="word">dry</text>
      </g>
      <path v-if="curve" :d="curve" class="curve" />
      <g v-for="w in drying.weighings" :key="w.at" class="point">
        <circle :cx="x(at(w.at))" :cy="y(w.grams)" r="4" />
        <title>{{ grams(w.grams) }}, {{ dayjs(w.at).format('ddd HH:mm') }}</title>
      </g>
      <path class="frame" :d="`M${box.left} ${box.top}V${box.bottom}H${box.right}`" />
    </svg>
  </figure>
</template>

<style scoped>
.drying {
  margin: 8px 0;
  max-width: 560px;
}

svg {
  display: block;
  width: 100%;
}

text {
  fill: var(--ink-soft);
  font: 11px var(--text);
}

.grid line {
  stroke: var(--clay-line);
  stroke-width: 0.7;
}

.band {
  fill: var(--celadon-wash);
}

.end {
  stroke: var(--celadon);
  stroke-dasharray: 5 4;
}

.ready {
  stroke: var(--celadon-ink);
  stroke-width: 1.2;
}

.word {
  fill: var(--celadon-ink);
  font-weight: 600;
}

.curve {
  fill: none;
  stroke: var(--cobalt);
  stroke-width: 2;
}

.point circle {
  fill: var(--ink);
}

.frame {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
</style>
