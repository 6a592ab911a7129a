<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { figures, grams } from '../../words'
import { above, below, roundLevels } from './contours'

// A reading over two amounts, as a glaze that runs from pale to deep, with lines
// at round numbers; hatched where something is to be minded. The point is where
// the formula is.
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
const grid = computed(() => ({ rows: rows.value, size }))
const levels = computed(() => roundLevels(ends.value.low, ends.value.high))
const bands = computed(() => above(grid.value, [ends.value.low, ...levels.value]))
const lines = computed(() => bands.value.filter((b) => levels.value.includes(b.value)))
/** Where something is to be minded: above one end of what is safe, below the other. */
const unsafe = computed(() => [
  ...(props.map.safe_high === undefined ? [] : above(grid.value, [props.map.safe_high])),
  ...(props.map.safe_low === undefined ? [] : below(grid.value, props.map.safe_low)),
])

const atX = (g: number) => left + Math.min(1, Math.max(0, g / props.xMost)) * size
const atY = (g: number) => top + size - Math.min(1, Math.max(0, g / props.yMost)) * size
const inside = (s: Schemas['MapPoint']) => s.x_g <= props.xMost && s.y_g <= props.yMost
const beyond = computed(() => props.map.schools.filter((s) => !inside(s)).map((s) => s.name))
const dragged = ref<{ x: number; y: number } | null>(null)
const here = computed(() => dragged.value ?? { x: props.map.here.x_g, y: props.map.here.y_g })

const valueText = (v: number) =>
  ['curdled', 'soap-lost'].includes(props.map.reading) ? `${(v * 100).toFixed(0)} %` : figures(v)

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
      <g :transform="`translate(${left} ${top})`" class="field">
        <path v-for="b in bands" :key="b.value" :d="b.path" :style="{ fill: glaze(share(b.value)) }" />
        <path v-for="(u, i) in unsafe" :key="`u${i}`" class="edge" :d="u.path" fill="url(#to-mind)" />
        <path v-for="l in lines" :key="`l${l.value}`" class="line" :d="l.path" />
        <template v-for="l in lines" :key="`t${l.value}`">
          <text v-if="l.label" class="level" :x="l.label.x" :y="l.label.y + 4" text-anchor="middle">
            {{ valueText(l.value) }}
          </text>
        </template>
      </g>
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
      <span class="soft">from {{ valueText(ends.low) }}, pale, to {{ valueText(ends.high) }}, deep · </span>
      <span v-if="map.safe_low !== undefined || map.safe_high !== undefined" class="soft">
        hatched: {{ map.safe_low !== undefined ? `below ${valueText(map.safe_low)}` : ''
        }}{{ map.safe_low !== undefined && map.safe_high !== undefined ? ' or ' : ''
        }}{{ map.safe_high !== undefined ? `above ${valueText(map.safe_high)}` : '' }} ·
      </span>
      <span class="soft"
        ><span class="key">◆ other schools</span>, sized to the same whole<template v-if="beyond.length"
          >; beyond the map: {{ beyond.join(', ') }}</template
        ></span
      >
    </figcaption>
  </figure>
</template>

<style scoped>
.key {
  white-space: nowrap;
}

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

.line {
  fill: none;
  stroke: var(--ink);
  stroke-opacity: 0.55;
  stroke-width: 1;
}

.edge {
  stroke: var(--oxblood);
  stroke-width: 1.4;
}

.level {
  fill: var(--ink);
  font: 600 11.5px var(--slab);
  paint-order: stroke;
  stroke: var(--slip-raised);
  stroke-width: 3.5px;
}
</style>
