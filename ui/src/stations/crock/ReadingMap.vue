<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { figures, grams } from '../../words'

// A reading over two amounts, as a glaze that runs from pale to deep; hatched
// where something is to be minded. The point is where the formula is.
const props = defineProps<{
  map: Schemas['ReadingMap']
  xMost: number
  yMost: number
  xName: string
  yName: string
  frozen: boolean
}>()
const emit = defineEmits<{ moved: [xG: number, yG: number] }>()

const size = 300
const left = 34
const top = 8
const svg = ref<SVGSVGElement>()

const rows = computed(() => props.map.values)
const columns = computed(() => rows.value[0]?.length ?? 0)
const cell = computed(() => ({ w: size / columns.value, h: size / rows.value.length }))
const ends = computed(() => {
  const all = rows.value.flat().filter((v) => v !== null)
  return { low: Math.min(...all), high: Math.max(...all) }
})

const share = (v: number) =>
  ends.value.high > ends.value.low
    ? Math.min(1, Math.max(0, (v - ends.value.low) / (ends.value.high - ends.value.low)))
    : 0.5
/** From bare slip to deep cobalt. */
const glaze = (s: number) => `color-mix(in srgb, var(--cobalt) ${4 + 66 * s}%, var(--slip-raised))`
const unsafe = (v: number) =>
  (props.map.safe_low !== undefined && v < props.map.safe_low) ||
  (props.map.safe_high !== undefined && v > props.map.safe_high)

const atX = (g: number) => left + Math.min(1, Math.max(0, g / props.xMost)) * size
const atY = (g: number) => top + size - Math.min(1, Math.max(0, g / props.yMost)) * size
const inside = (s: Schemas['MapPoint']) => s.x_g <= props.xMost && s.y_g <= props.yMost
const beyond = computed(() => props.map.schools.filter((s) => !inside(s)).map((s) => s.name))
const dragged = ref<{ x: number; y: number } | null>(null)
const here = computed(() => dragged.value ?? { x: props.map.here.x_g, y: props.map.here.y_g })

const valueText = (v: number) =>
  ['curdled', 'soap-lost'].includes(props.map.reading) ? `${(v * 100).toFixed(0)} %` : figures(v)

/** Levels drawn as lines: where the reading passes a round number. */
const legend = computed(() =>
  [0, 0.25, 0.5, 0.75, 1].map((s) => ends.value.low + s * (ends.value.high - ends.value.low)),
)

function place(e: PointerEvent) {
  const box = svg.value?.getBoundingClientRect()
  if (!box) return
  const scale = (left + size + 12) / box.width
  const x = ((e.clientX - box.left) * scale - left) / size
  const y = 1 - ((e.clientY - box.top) * scale - top) / size
  dragged.value = {
    x: Math.min(1, Math.max(0, x)) * props.xMost,
    y: Math.min(1, Math.max(0, y)) * props.yMost,
  }
}

function grab(e: PointerEvent) {
  if (props.frozen) return
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
  place(e)
}

function drop() {
  if (!dragged.value) return
  emit('moved', dragged.value.x, dragged.value.y)
  dragged.value = null
}

function key(e: KeyboardEvent) {
  const by = e.shiftKey ? 0.1 : 0.02
  const steps: Record<string, { x: number; y: number }> = {
    ArrowRight: { x: by, y: 0 },
    ArrowLeft: { x: -by, y: 0 },
    ArrowUp: { x: 0, y: by },
    ArrowDown: { x: 0, y: -by },
  }
  const step = steps[e.key]
  if (!step || props.frozen) return
  e.preventDefault()
  const clamp = (g: number, most: number) => Math.min(most, Math.max(0, g))
  emit(
    'moved',
    clamp(here.value.x + step.x * props.xMost, props.xMost),
    clamp(here.value.y + step.y * props.yMost, props.yMost),
  )
}
</script>

<template>
  <figure>
    <svg
      ref="svg"
      :viewBox="`0 0 ${left + size + 12} ${top + size + 34}`"
      class="map"
      :class="{ frozen }"
      tabindex="0"
      role="application"
      :aria-label="`Map: ${xName} across, ${yName} upward. Arrow keys move the point.`"
      @pointerdown="grab"
      @pointermove="dragged && place($event)"
      @pointerup="drop"
      @pointercancel="dragged = null"
      @keydown="key"
    >
      <defs>
        <pattern
          id="to-mind"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0v7" stroke="var(--oxblood)" stroke-width="1.5" />
        </pattern>
      </defs>
      <g shape-rendering="crispEdges">
        <template v-for="(row, j) in rows" :key="j">
          <template v-for="(v, i) in row" :key="i">
            <rect
              v-if="v !== null"
              :x="left + i * cell.w"
              :y="top + size - (j + 1) * cell.h"
              :width="cell.w + 0.4"
              :height="cell.h + 0.4"
              :style="{ fill: glaze(share(v)) }"
            />
          </template>
        </template>
      </g>
      <template v-for="(row, j) in rows" :key="`u${j}`">
        <template v-for="(v, i) in row" :key="i">
          <rect
            v-if="v !== null && unsafe(v)"
            :x="left + i * cell.w"
            :y="top + size - (j + 1) * cell.h"
            :width="cell.w + 0.4"
            :height="cell.h + 0.4"
            fill="url(#to-mind)"
          />
        </template>
      </template>
      <rect :x="left" :y="top" :width="size" :height="size" fill="none" stroke="var(--ink)" />
      <g v-for="s in map.schools.filter(inside)" :key="s.name" class="school">
        <path :d="`M${atX(s.x_g)} ${atY(s.y_g) - 5}l5 5-5 5-5-5z`" />
        <text
          :x="atX(s.x_g) + (atX(s.x_g) > left + size * 0.6 ? -8 : 8)"
          :y="atY(s.y_g) + 4"
          :text-anchor="atX(s.x_g) > left + size * 0.6 ? 'end' : 'start'"
        >
          {{ s.name }}
        </text>
      </g>
      <g class="here">
        <path :d="`M${left} ${atY(here.y)}h${size}M${atX(here.x)} ${top}v${size}`" class="cross" />
        <circle :cx="atX(here.x)" :cy="atY(here.y)" r="8" />
      </g>
      <text :x="left" :y="top + size + 15" class="axis">0</text>
      <text :x="left + size" :y="top + size + 15" class="axis" text-anchor="end">{{ grams(xMost) }}</text>
      <text :x="left + size / 2" :y="top + size + 28" class="axis name" text-anchor="middle">
        {{ xName }} →
      </text>
      <text :transform="`translate(14 ${top + size / 2}) rotate(-90)`" class="axis name" text-anchor="middle">
        {{ yName }} →
      </text>
      <text :transform="`translate(28 ${top + 2}) rotate(-90)`" class="axis" text-anchor="end">
        {{ grams(yMost) }}
      </text>
    </svg>
    <figcaption class="small">
      <ol aria-label="From the least to the most">
        <li v-for="(v, i) in legend" :key="i">
          <span class="patch" :style="{ background: glaze(i / 4) }" />{{ valueText(v) }}
        </li>
      </ol>
      <span v-if="map.safe_low !== undefined || map.safe_high !== undefined" class="soft">
        hatched: {{ map.safe_low !== undefined ? `below ${valueText(map.safe_low)}` : ''
        }}{{ map.safe_low !== undefined && map.safe_high !== undefined ? ' or ' : ''
        }}{{ map.safe_high !== undefined ? `above ${valueText(map.safe_high)}` : '' }} ·
      </span>
      <span class="soft"
        >◆ other schools, sized to the same whole<template v-if="beyond.length"
          >; beyond the map: {{ beyond.join(', ') }}</template
        ></span
      >
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

.map {
  cursor: crosshair;
  display: block;
  touch-action: none;
  width: 100%;
}

.map.frozen {
  cursor: default;
}

.here circle {
  fill: var(--slip);
  stroke: var(--ink);
  stroke-width: 3;
}

.here .cross {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 2 3;
  stroke-width: 0.8;
}

.school path {
  fill: var(--ochre);
  stroke: var(--ink);
  stroke-width: 0.8;
}

.school text {
  font: 11px var(--text);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--slip);
  stroke-width: 3px;
}

.axis {
  fill: var(--ink-soft);
  font: 11px var(--text);
}

.axis.name {
  fill: var(--ink);
  font-size: 12px;
}

ol {
  display: flex;
  gap: 12px;
  list-style: none;
  margin: 4px 0;
  padding: 0;
}

.patch {
  border: 1px solid var(--ink);
  display: inline-block;
  height: 11px;
  margin-right: 4px;
  width: 14px;
}
</style>
