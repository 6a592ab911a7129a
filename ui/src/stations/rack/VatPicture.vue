<script setup lang="ts">
import { computed } from 'vue'

import { tints, type Vessel } from './vessels'

// A vat in section: how full it is, and how old what is in it is, the youngest on top.
const props = defineProps<{ vat: Vessel }>()

const top = 14
const height = 78
const layers = computed(() => {
  const full = Math.min(1, props.vat.level_ml / props.vat.capacity_ml)
  let y = top + height * (1 - full)
  return props.vat.ages.map((a, i) => {
    const h = height * full * a.share
    const layer = { y, h, tint: tints[i], name: a.name }
    y += h
    return layer
  })
})
</script>

<template>
  <svg
    viewBox="0 0 80 100"
    role="img"
    :aria-label="`${Math.round((100 * vat.level_ml) / vat.capacity_ml)} % full`"
  >
    <clipPath :id="`in-${vat.id}`"><path d="M12 14h56l-3 74q0 4-6 4H21q-6 0-6-4z" /></clipPath>
    <g :clip-path="`url(#in-${vat.id})`">
      <rect v-for="l in layers" :key="l.name" x="8" width="64" :y="l.y" :height="l.h" :fill="l.tint">
        <title>{{ l.name }}</title>
      </rect>
    </g>
    <path d="M12 14h56l-3 74q0 4-6 4H21q-6 0-6-4z" fill="none" stroke="var(--ink)" stroke-width="1.6" />
    <path
      d="M8 14h64M64 82h10v-5"
      fill="none"
      stroke="var(--ink)"
      stroke-width="1.6"
      stroke-linecap="round"
    />
  </svg>
</template>
