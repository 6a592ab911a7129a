<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { percent } from '../../words'

// What meets the hardness of the water, as one stacked bar, each part named.
const props = defineProps<{ hardness: Schemas['Chemistry']['hardness'] }>()

const parts = computed(() => {
  const h = props.hardness
  return [
    { name: 'falls out as chalk', mmol: h.met_by_precipitation, fill: 'var(--clay)', hatch: false },
    { name: 'held dissolved', mmol: h.met_by_chelation, fill: 'var(--celadon)', hatch: false },
    { name: 'takes soap', mmol: h.taken_by_soap, fill: 'var(--oxblood)', hatch: false },
    { name: 'left', mmol: h.left, fill: 'url(#left-over)', hatch: true },
  ].filter((p) => p.mmol > 0.0005 * h.total)
})
</script>

<template>
  <div>
    <svg
      viewBox="0 0 336 16"
      preserveAspectRatio="none"
      class="bar"
      role="img"
      aria-label="What meets the hardness"
    >
      <defs>
        <pattern
          id="left-over"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--ochre-wash)" />
          <path d="M0 0v6" stroke="var(--ochre)" stroke-width="3" />
        </pattern>
      </defs>
      <rect
        v-for="(p, i) in parts"
        :key="p.name"
        :x="(parts.slice(0, i).reduce((s, q) => s + q.mmol, 0) / hardness.total) * 336"
        y="1"
        :width="(p.mmol / hardness.total) * 336"
        height="14"
        :fill="p.fill"
        stroke="var(--slip)"
        stroke-width="1"
      />
    </svg>
    <ul class="small">
      <li v-for="p in parts" :key="p.name">
        <svg viewBox="0 0 10 10" aria-hidden="true"><rect width="10" height="10" :fill="p.fill" /></svg>
        {{ p.name }} <span class="num">{{ percent(p.mmol / hardness.total) }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.bar {
  display: block;
  height: 16px;
  margin: 4px 0 3px;
  width: 100%;
}

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  list-style: none;
  margin: 0;
  padding: 0;
}

li svg {
  height: 10px;
  width: 10px;
}
</style>
