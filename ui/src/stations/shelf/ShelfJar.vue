<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { currency } from '../../api/session'
import { hatchOf } from '../../parts/hatches'
import { day, grams, money } from '../../words'
import { markWords } from './marks'
import { vesselOf } from './vessels'

const props = defineProps<{ jar: Schemas['ShelfJar']; open: boolean }>()
defineEmits<{ open: [] }>()

// what it stands in tells its form, the hatching what it is for
const vessel = computed(() => vesselOf(props.jar.form))
const hatch = computed(() => hatchOf(props.jar.functions[0] ?? ''))
const depth = computed(() => 76 - vessel.value.top)
const fill = computed(() => depth.value * props.jar.level)
const marks = computed(() => props.jar.marks.filter((m) => m !== 'opened'))
</script>

<template>
  <button class="plain jar" :class="{ open }" type="button" @click="$emit('open')">
    <svg viewBox="0 0 84 84" aria-hidden="true">
      <clipPath :id="`in-${jar.material}`">
        <path :d="vessel.wall" />
      </clipPath>
      <g :clip-path="`url(#in-${jar.material})`">
        <rect x="10" y="10" width="64" height="70" fill="var(--slip-sunk)" />
        <rect
          class="stock"
          x="8"
          :y="76 - fill"
          width="68"
          :height="fill + 4"
          :fill="`url(#hatch-${hatch})`"
        />
        <path v-if="jar.level > 0" :d="`M8 ${76 - fill}h68`" class="surface" />
        <path
          v-if="jar.reorder_g > 0"
          :d="`M12 ${76 - depth / 2}h60`"
          stroke="var(--ink-soft)"
          stroke-dasharray="3 4"
        />
      </g>
      <path :d="vessel.wall" fill="none" stroke="var(--ink)" stroke-width="1.6" />
      <path :d="vessel.lid" fill="var(--slip-raised)" stroke="var(--ink)" stroke-width="1.6" />
    </svg>
    <span class="board" />
    <strong class="name">{{ jar.name }}</strong>
    <span class="num stock-g">{{ grams(jar.usable_g) }}</span>
    <span class="soft small">{{ jar.strength }}</span>
    <span class="soft small">{{
      jar.price_per_kg
        ? `${money(jar.price_per_kg, currency)} a kg`
        : jar.price_per_kg === ''
          ? ''
          : 'no price'
    }}</span>
    <span v-if="jar.next_date" class="soft small">best {{ day(jar.next_date) }}</span>
    <span v-if="marks.length" class="marks">
      <span v-for="m in marks" :key="m" class="mark" :class="markWords[m].tone">{{ markWords[m].text }}</span>
    </span>
  </button>
</template>

<style scoped>
.jar {
  display: flex;
  flex-direction: column;
  height: 100%;
  padding: 0 10px 4px 0;
  width: 100%;
}

.jar svg {
  align-self: center;
  height: 84px;
}

.surface {
  stroke: var(--ink-soft);
}

.stock {
  transition:
    y 0.4s,
    height 0.4s;
}

.board {
  background: var(--clay);
  display: block;
  height: 4px;
  margin: 0 -10px 8px 0;
}

.open .board {
  background: var(--cobalt);
}

.open .name {
  color: var(--cobalt);
}

.name {
  font-family: var(--slab);
  font-size: 16px;
  line-height: 1.15;
}

.stock-g {
  font-size: 20px;
  font-weight: 600;
}

.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 4px;
}
</style>
