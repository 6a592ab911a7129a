<script setup lang="ts">
import type { Schemas } from '../../api/client'
import Choice from '../../parts/Choice.vue'

// A photo with what was found on it: the patches, and the areas by their numbers.
const props = defineProps<{
  url: string
  found: Schemas['SwatchFound']
  /** The clean cloth; below zero where it is not asked for. */
  cloth: number
  stain: number
}>()
defineEmits<{ cloth: [number]; stain: [number] }>()
const options = () =>
  props.found.areas.map((a, i) => ({
    value: i,
    label: `area ${i + 1}, ${Math.round(a.share * 100)} %, lightness ${Math.round(a.lab.l)}`,
  }))
const asksCloth = props.cloth >= 0
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${found.width} ${found.height}`"
      role="img"
      aria-label="The photo with what was found on it"
    >
      <image :href="url" :width="found.width" :height="found.height" />
      <g v-for="(p, name) in { white: found.white, grey: found.grey }" :key="name">
        <rect v-if="p" :x="p.x" :y="p.y" :width="p.width" :height="p.height" class="patch" />
      </g>
      <g v-for="(a, i) in found.areas" :key="i" :class="{ chosen: i === cloth || i === stain }">
        <rect :x="a.x" :y="a.y" :width="a.width" :height="a.height" class="area" />
        <text :x="a.x + 8" :y="a.y + found.height / 16" :font-size="found.height / 18">{{ i + 1 }}</text>
      </g>
    </svg>
    <figcaption v-if="found.areas.length">
      <Choice
        v-if="asksCloth"
        :model-value="cloth"
        label="Clean cloth"
        :options="options()"
        @update:model-value="$emit('cloth', $event)"
      />
      <Choice
        :model-value="stain"
        :label="asksCloth ? 'Stain' : 'Where the stain was'"
        :options="options()"
        @update:model-value="$emit('stain', $event)"
      />
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 8px 0;
}

svg {
  display: block;
  width: 100%;
}

rect {
  fill: none;
  stroke: #fff;
  stroke-width: 3;
}

.patch {
  stroke-dasharray: 8 6;
}

.chosen .area {
  stroke: var(--cobalt);
  stroke-width: 6;
}

text {
  fill: #fff;
  paint-order: stroke;
  stroke: #000;
  stroke-width: 3px;
}

figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  margin-top: 8px;
}

figcaption > * {
  flex: 1 1 200px;
}
</style>
