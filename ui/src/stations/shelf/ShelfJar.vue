<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { currency } from '../../api/session'
import { day, grams, money } from '../../words'
import { markWords } from './marks'

const props = defineProps<{ jar: Schemas['ShelfJar']; open: boolean }>()
defineEmits<{ open: [] }>()

// the inside of the jar is 62 units high, from 76 up to 14
const fill = computed(() => 62 * props.jar.level)
const marks = computed(() => props.jar.marks.filter((m) => m !== 'opened'))
</script>

<template>
  <button class="plain jar" :class="{ open }" type="button" @click="$emit('open')">
    <svg viewBox="0 0 84 84" aria-hidden="true">
      <clipPath :id="`in-${jar.material}`">
        <path d="M22 12h40l-2 8c8 6 10 14 10 24v24c0 6-3 8-8 8H22c-5 0-8-2-8-8V44c0-10 2-18 10-24z" />
      </clipPath>
      <g :clip-path="`url(#in-${jar.material})`">
        <rect x="10" y="10" width="64" height="70" fill="var(--slip-sunk)" />
        <rect class="stock" x="10" :y="76 - fill" width="64" :height="fill + 4" />
        <path v-if="jar.reorder_g > 0" d="M12 45h60" stroke="var(--ink-soft)" stroke-dasharray="3 4" />
      </g>
      <path
        d="M22 12h40l-2 8c8 6 10 14 10 24v24c0 6-3 8-8 8H22c-5 0-8-2-8-8V44c0-10 2-18 10-24z"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.6"
      />
      <path d="M20 8h44v6H20z" fill="var(--slip-raised)" stroke="var(--ink)" stroke-width="1.6" />
    </svg>
    <span class="board" />
    <strong class="name">{{ jar.name }}</strong>
    <span class="num stock-g">{{ grams(jar.usable_g) }}</span>
    <span class="soft small">{{ jar.strength }}</span>
    <span class="soft small">{{
      jar.price_per_kg ? `${money(jar.price_per_kg, currency)} a kg` : 'no price'
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

.stock {
  fill: var(--clay);
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
