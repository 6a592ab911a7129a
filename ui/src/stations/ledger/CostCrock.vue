<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import Hatches from '../../parts/Hatches.vue'
import { hatchOf } from '../../parts/hatches'
import { money, percent } from '../../words'

// The crock cut by cost: a layer for each thing that is paid for, as thick as its share, what
// it is made of at the bottom. What nobody knows the cost of stands on top, open.
const props = defineProps<{ strata: Schemas['Stratum'][]; currency: string; chosen?: string }>()
defineEmits<{ choose: [key: string] }>()

const { data: materials } = useMaterials()
const hatchFor = (s: Schemas['Stratum']) =>
  s.part === 'materials'
    ? hatchOf(materials.value?.find((m) => m.id === s.item)?.functions[0] ?? 'filler')
    : ''

const top = 66
const bottom = 476
const layers = computed(() => {
  let y = bottom
  return props.strata
    .filter((s) => s.cost && Number(s.cost) > 0)
    .map((s) => {
      const h = s.share * (bottom - top)
      y -= h
      return { ...s, y, h, key: s.part + (s.item ?? ''), hatch: hatchFor(s) }
    })
})
const unknown = computed(() => props.strata.filter((s) => !s.cost))
</script>

<template>
  <svg viewBox="0 0 260 500" role="img" :aria-label="`What it costs, as layers in a crock`">
    <defs>
      <Hatches />
      <clipPath id="crock-cost">
        <path d="M66 40h128l-4 26c38 34 40 300 8 410H62C30 366 32 100 70 66z" />
      </clipPath>
    </defs>
    <g clip-path="url(#crock-cost)">
      <rect x="20" y="30" width="220" height="460" fill="var(--slip-raised)" />
      <g v-for="(l, i) in layers" :key="l.key" class="layer" @click="$emit('choose', l.key)">
        <rect
          x="20"
          :y="l.y"
          width="220"
          :height="l.h + 0.5"
          :class="l.part"
          :fill="l.hatch ? `url(#hatch-${l.hatch})` : undefined"
        />
        <rect v-if="chosen === l.key" x="20" :y="l.y" width="220" :height="l.h" class="chosen" />
        <line
          v-if="i > 0"
          x1="20"
          x2="240"
          :y1="l.y + l.h"
          :y2="l.y + l.h"
          stroke="var(--ink)"
          stroke-width="0.8"
        />
      </g>
      <line v-if="unknown.length" x1="40" x2="220" :y1="top - 3" :y2="top - 3" class="open" />
    </g>
    <g v-for="l in layers" :key="`t${l.key}`" class="label">
      <template v-if="l.h > 22">
        <text class="halo" x="130" :y="l.y + l.h / 2 + 6">{{ l.name }} {{ percent(l.share) }}</text>
        <text x="130" :y="l.y + l.h / 2 + 6">{{ l.name }} {{ percent(l.share) }}</text>
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
    <text v-if="unknown.length" x="130" y="58" class="none">
      and {{ unknown.map((u) => u.name.toLowerCase()).join(', ') }}
    </text>
    <title>{{ layers.map((l) => `${l.name} ${money(l.cost, currency)}`).join(', ') }}</title>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  height: 100%;
  max-height: 520px;
  width: 100%;
}

.layer {
  cursor: pointer;
}

.packaging {
  fill: var(--cobalt-wash);
}

.hands {
  fill: var(--clay);
}

.energy {
  fill: var(--ochre-wash);
}

.failures {
  fill: var(--oxblood-wash);
}

.chosen {
  fill: var(--cobalt);
  opacity: 0.25;
}

.open {
  stroke: var(--ink);
  stroke-dasharray: 5 5;
  stroke-width: 1.5;
}

.label text {
  fill: var(--ink);
  font: 600 17px var(--text);
  pointer-events: none;
  text-anchor: middle;
}

.label .halo {
  stroke: var(--slip-raised);
  stroke-linejoin: round;
  stroke-width: 4px;
}

.none {
  fill: var(--ink-soft);
  font: 16px var(--text);
  text-anchor: middle;
}
</style>
