<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'

// The life of a jar as a line: from the day it was made to its date and half beyond it, each
// look a mark on it. A look that found it gone is a cross, and the line ends there.
const props = defineProps<{ sample: Schemas['Sample'] }>()
const WIDTH = 240
const BEYOND = 1.5
const time = (date: string) => new Date(date).getTime()
const made = computed(() => time(props.sample.made))
const life = computed(() => Math.max(1, time(props.sample.best_before) - made.value))
const x = (date: string) =>
  Math.min(WIDTH - 6, 6 + ((time(date) - made.value) / (life.value * BEYOND)) * (WIDTH - 12))
const looks = computed(() => props.sample.looks.filter((l) => l.counts))
const last = computed(() => looks.value.at(-1))
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} 30`" role="img" :aria-label="sample.says" preserveAspectRatio="xMinYMid">
    <line class="whole" x1="6" :x2="WIDTH - 6" y1="15" y2="15" />
    <line v-if="last" class="lived" x1="6" :x2="x(last.on)" y1="15" y2="15" />
    <line class="date" :x1="x(sample.best_before)" :x2="x(sample.best_before)" y1="4" y2="26" />
    <template v-for="l in looks" :key="l.id">
      <circle v-if="l.good" :class="l.signs.length ? 'changed' : 'good'" :cx="x(l.on)" cy="15" r="5" />
      <path v-else class="gone" :d="`M${x(l.on) - 6} 9l12 12m0 -12l-12 12`" />
    </template>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  height: 30px;
  width: 100%;
}

.whole {
  stroke: var(--clay-line);
  stroke-dasharray: 2 4;
  stroke-width: 2;
}

.lived {
  stroke: var(--celadon);
  stroke-width: 3;
}

.date {
  stroke: var(--ink);
  stroke-width: 2;
}

.good {
  fill: var(--celadon);
}

.changed {
  fill: var(--slip);
  stroke: var(--ochre);
  stroke-width: 3;
}

.gone {
  stroke: var(--oxblood);
  stroke-width: 3;
}
</style>
