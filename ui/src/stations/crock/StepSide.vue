<script setup lang="ts">
import { computed } from 'vue'

import { useStepKinds } from '../../api/queries'
import type { FormulaStep } from './steps'

// The steps down the side of the crock, with how many layers each puts in.
const props = defineProps<{ steps: FormulaStep[] }>()
const { data: known } = useStepKinds()
const shown = computed(() =>
  props.steps.map((s) => ({
    name: known.value?.kinds.find((k) => k.kind === s.kind)?.name ?? s.kind,
    stage: known.value?.kinds.find((k) => k.kind === s.kind)?.stage ?? 'bench',
    layers: s.kind === 'weigh' ? 0 : (s.lines?.length ?? 0),
    for: s.for,
  })),
)
</script>

<template>
  <ol class="side" aria-label="Steps">
    <li v-for="(s, i) in shown" :key="i" :class="s.stage">
      <span class="num">{{ i + 1 }}</span>
      <span
        >{{ s.name }}<span v-if="s.for" class="soft small for"> {{ s.for }}</span></span
      >
      <span class="layers" :title="s.layers ? `${s.layers} go in` : ''">{{
        '▬'.repeat(Math.min(s.layers, 5))
      }}</span>
    </li>
  </ol>
</template>

<style scoped>
.side {
  border-top: 1px solid var(--clay-line);
  font-size: 13px;
  list-style: none;
  margin: 8px 0 0;
  padding: 6px 0 0;
}

li {
  align-items: baseline;
  border-left: 3px solid var(--clay);
  display: grid;
  gap: 6px;
  grid-template-columns: 16px 1fr auto;
  padding: 1px 6px;
}

/* what leaves the bench and stands */
li.rack {
  border-left-style: dotted;
}

.for {
  margin-left: 6px;
}

.layers {
  color: var(--clay);
  font-size: 9px;
  letter-spacing: 1px;
}
</style>
