<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'

// The pH as a strip from 0 to 14: this mixture's mark with the gas in it, and
// after the gas has left, each with its range. Where skin and eyes burn is
// hatched.
const props = defineProps<{ chemistry: Schemas['Chemistry'] }>()

const width = 336
const at = (ph: number) => 8 + (Math.min(14, Math.max(0, ph)) / 14) * (width - 16)
const burns = computed(() => [
  { from: 0, to: props.chemistry.limits.burns_below_ph },
  { from: props.chemistry.limits.burns_above_ph, to: 14 },
])
const marks = computed(() => {
  const { closed, vented } = props.chemistry.ph_range
  const both = [{ name: 'gas in it', r: closed, y: 14, open: false }]
  if (props.chemistry.gas_shifts_ph) both.push({ name: 'gas gone', r: vented, y: 14, open: true })
  return both
})
</script>

<template>
  <svg
    class="ph-strip"
    :viewBox="`0 0 ${width} 38`"
    role="img"
    :aria-label="`pH ${chemistry.ph.closed.toFixed(1)} with the gas in it, ${chemistry.ph.vented.toFixed(1)} after`"
  >
    <defs>
      <pattern id="burns" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0v5" stroke="var(--oxblood)" stroke-width="1.6" />
      </pattern>
    </defs>
    <rect
      v-for="b in burns"
      :key="b.from"
      :x="at(b.from)"
      y="9"
      :width="at(b.to) - at(b.from)"
      height="10"
      fill="url(#burns)"
      opacity="0.75"
    />
    <rect :x="at(0)" y="9" :width="at(14) - at(0)" height="10" fill="none" stroke="var(--clay)" />
    <g v-for="n in 15" :key="n">
      <path :d="`M${at(n - 1)} 19v${(n - 1) % 7 ? 3 : 5}`" stroke="var(--ink-soft)" stroke-width="0.8" />
      <text v-if="(n - 1) % 2 === 0" :x="at(n - 1)" y="34" class="tick">{{ n - 1 }}</text>
    </g>
    <g v-for="m in marks" :key="m.name">
      <rect
        :x="at(m.r.low)"
        :y="m.y - 2"
        :width="Math.max(0, at(m.r.high) - at(m.r.low))"
        height="4"
        fill="var(--cobalt)"
        opacity="0.45"
      />
      <circle
        :cx="at(m.r.value)"
        :cy="m.y"
        r="6"
        :fill="m.open ? 'var(--slip)' : 'var(--cobalt)'"
        stroke="var(--cobalt)"
        stroke-width="2.4"
      >
        <title>{{ m.name }}: {{ m.r.value.toFixed(2) }}</title>
      </circle>
    </g>
  </svg>
</template>

<style scoped>
.ph-strip {
  display: block;
  margin-top: 2px;
  width: 100%;
}

.tick {
  fill: var(--ink-soft);
  font: 10.5px var(--text);
  text-anchor: middle;
}
</style>
