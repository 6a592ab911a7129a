<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '../../api/client'
import Hatches from '../../parts/Hatches.vue'
import { hatchOf } from '../../parts/hatches'
import { grams, percent } from '../../words'

// The crock in section: one stratum a line, the first at the bottom, as thick
// as its share by mass. A boundary is dragged, or nudged with the arrow keys,
// to shift mass between the two lines it parts.
const props = defineProps<{ assessment?: Schemas['Assessment']; frozen: boolean }>()
const emit = defineEmits<{ shift: [from: number, to: number, massG: number] }>()

const top = 52
const bottom = 476
const height = bottom - top
const svg = ref<SVGSVGElement>()

interface Stratum {
  line: number
  name: string
  hatch: string
  share: number
  massG: number
  y: number
  h: number
}

const strata = computed<Stratum[]>(() => {
  let y = bottom
  return (props.assessment?.lines ?? []).flatMap((l, line) => {
    if (l.share <= 0) return []
    const h = l.share * height
    y -= h
    return [{ line, name: l.name, hatch: hatchOf(l.function), share: l.share, massG: l.mass_g.value, y, h }]
  })
})
const total = computed(() => props.assessment?.total_mass_g.value ?? 0)

/** At least this share of a line's mass is left to it when a boundary moves. */
const leave = 0.02

function nudge(i: number, massG: number) {
  const lower = strata.value[i]
  const upper = strata.value[i + 1]
  if (props.frozen || !lower || !upper) return
  const most = upper.massG * (1 - leave)
  const least = -lower.massG * (1 - leave)
  const moved = Math.min(most, Math.max(least, massG))
  if (Math.abs(moved) > 0.01) emit('shift', upper.line, lower.line, moved)
}

let drag: { i: number; y: number } | null = null

function unitsPerPixel(): number {
  return 500 / (svg.value?.getBoundingClientRect().height ?? 500)
}

function grab(e: PointerEvent, i: number) {
  if (props.frozen) return
  ;(e.target as Element).setPointerCapture(e.pointerId)
  drag = { i, y: e.clientY }
}

function pull(e: PointerEvent) {
  if (!drag) return
  const up = (drag.y - e.clientY) * unitsPerPixel()
  if (Math.abs(up) < 3) return
  drag.y = e.clientY
  nudge(drag.i, (up / height) * total.value)
}

function key(e: KeyboardEvent, i: number) {
  const step = total.value * (e.shiftKey ? 0.05 : 0.01)
  if (e.key === 'ArrowUp' || e.key === 'ArrowRight') nudge(i, step)
  else if (e.key === 'ArrowDown' || e.key === 'ArrowLeft') nudge(i, -step)
  else return
  e.preventDefault()
}

function wheel(e: WheelEvent, i: number) {
  e.preventDefault()
  nudge(i, -Math.sign(e.deltaY) * total.value * 0.01)
}
</script>

<template>
  <figure>
    <svg ref="svg" viewBox="0 0 260 500" role="group" aria-label="The formula as layers in a crock">
      <defs>
        <Hatches />
        <clipPath id="crock-inside">
          <path d="M66 40h128l-4 26c38 34 40 300 8 410H62C30 366 32 100 70 66z" />
        </clipPath>
      </defs>
      <g clip-path="url(#crock-inside)">
        <rect x="20" y="30" width="220" height="460" fill="var(--slip-raised)" />
        <g v-for="(s, i) in strata" :key="s.line">
          <rect
            class="layer"
            x="20"
            :y="s.y"
            width="220"
            :height="s.h + 0.5"
            :fill="`url(#hatch-${s.hatch})`"
          />
          <line
            v-if="i > 0"
            x1="20"
            x2="240"
            :y1="s.y + s.h"
            :y2="s.y + s.h"
            stroke="var(--ink)"
            stroke-width="0.8"
          />
        </g>
      </g>
      <g v-for="s in strata" :key="`t${s.line}`" class="label">
        <template v-if="s.h > 17">
          <text class="halo" x="130" :y="s.y + s.h / 2 + 5">{{ s.name }} {{ percent(s.share) }}</text>
          <text x="130" :y="s.y + s.h / 2 + 5">{{ s.name }} {{ percent(s.share) }}</text>
        </template>
      </g>
      <path
        d="M60 26h140v14h-6l-4 26c38 34 40 300 8 410a8 8 0 0 1-8 6H70a8 8 0 0 1-8-6C30 366 32 100 70 66l-4-26h-6z"
        fill="none"
        stroke="var(--ink)"
        stroke-width="3"
        stroke-linejoin="round"
      />
      <path
        d="M44 150c-14-6-22 4-20 26s12 30 22 22M216 150c14-6 22 4 20 26s-12 30-22 22"
        fill="none"
        stroke="var(--ink)"
        stroke-width="3"
      />
      <g v-if="!frozen">
        <g
          v-for="(s, i) in strata.slice(0, -1)"
          :key="`b${s.line}`"
          class="boundary"
          role="slider"
          tabindex="0"
          :aria-label="`Between ${s.name} and ${strata[i + 1]?.name}`"
          :aria-valuenow="Math.round(s.share * 100)"
          :aria-valuetext="`${s.name} ${percent(s.share)}`"
          @pointerdown="grab($event, i)"
          @pointermove="pull"
          @pointerup="drag = null"
          @pointercancel="drag = null"
          @wheel="wheel($event, i)"
          @keydown="key($event, i)"
        >
          <rect x="30" :y="s.y - 9" width="200" height="18" fill="transparent" />
          <path class="grip" :d="`M118 ${s.y - 3}h24M118 ${s.y + 3}h24`" />
        </g>
      </g>
      <text v-if="strata.length === 0" x="130" y="270" class="none">nothing in it yet</text>
    </svg>
    <figcaption v-if="assessment && total > 0">
      <span class="num total">{{ grams(total) }}</span>
      <span class="soft small">{{
        assessment.state === 'dry'
          ? 'dry, in a jar'
          : assessment.state === 'damp'
            ? 'damp, to be pressed'
            : 'wet, in a pot'
      }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  display: flex;
  flex-direction: column;
  height: 100%;
  margin: 0;
}

svg {
  flex: 1;
  min-height: 0;
  touch-action: none;
  width: 100%;
}

.layer {
  transition:
    y 0.25s,
    height 0.25s;
}

.label text {
  fill: var(--ink);
  font: 600 12.5px var(--text);
  pointer-events: none;
  text-anchor: middle;
}

.label .halo {
  stroke: var(--slip-raised);
  stroke-linejoin: round;
  stroke-width: 4px;
}

.boundary {
  cursor: ns-resize;
}

.grip {
  fill: none;
  opacity: 0.35;
  stroke: var(--ink);
  stroke-width: 2;
}

.boundary:hover .grip,
.boundary:focus .grip {
  opacity: 1;
  stroke: var(--cobalt);
}

.none {
  fill: var(--ink-soft);
  font: 14px var(--text);
  text-anchor: middle;
}

figcaption {
  align-items: center;
  display: flex;
  flex-direction: column;
  padding-top: 6px;
}

.total {
  font-size: 30px;
  font-weight: 600;
  line-height: 1;
}
</style>
