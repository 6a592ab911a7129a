<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { grams, onScale } from '../../words'

// What to weigh beside what the scale shows, large enough to be read from a
// metre off, and the bar that fills up to the mark.
const props = defineProps<{
  wantedG: number
  line: Schemas['BatchLine']
  /** Whether a scale is on the bench. */
  scale: boolean
  /** How it is put in where it is not weighed; empty where it is. */
  byHand: string
  reading: Schemas['ScaleReading'] | null
  /** What is being typed; NaN for nothing. */
  typedG: number
  stepG: number
}>()

/** Where on the bar the target is; the rest of it is for too much. */
const markAt = 80

const shown = computed(() => (Number.isFinite(props.typedG) ? props.typedG : (props.reading?.grams ?? 0)))
const filled = computed(() =>
  props.wantedG > 0 ? Math.min(1.25, Math.max(0, shown.value / props.wantedG)) : 0,
)
const ok = computed(
  () => props.wantedG > 0 && Math.abs(shown.value - props.wantedG) <= props.line.tolerance_g,
)
const much = computed(() => filled.value > 1 && !ok.value)
</script>

<template>
  <div class="numbers" :class="{ alone: !scale }">
    <div>
      <template v-if="byHand">
        <span class="label">by hand</span>
        <span class="huge words" data-testid="target">{{ byHand }}</span>
        <span v-if="byHand === line.hand" class="soft"
          >about {{ grams(line.target_g) }}: too little for this scale</span
        >
        <span v-else class="soft">about {{ onScale(wantedG, stepG) }}, levelled off</span>
      </template>
      <template v-else-if="line.target_g === 0">
        <span class="label">as much as it takes</span>
        <span class="huge words" data-testid="target">{{ line.amount || 'as needed' }}</span>
      </template>
      <template v-else>
        <span class="label">weigh out</span>
        <span class="num huge" data-testid="target">{{ onScale(wantedG, stepG) }}</span>
      </template>
      <span v-if="line.weighed_g > 0" class="soft"
        >{{ grams(line.weighed_g)
        }}{{ line.target_g > 0 ? ` of ${grams(line.target_g)} done` : ' is in' }}</span
      >
    </div>
    <div v-if="scale" class="live" :class="{ ok, much }">
      <span class="label">
        on the scale
        <template v-if="reading?.overload">· too heavy</template>
        <template v-else-if="reading && !reading.stable">· settling</template>
      </span>
      <span class="num huge" data-testid="reading">{{ reading ? onScale(reading.grams, stepG) : '–' }}</span>
    </div>
  </div>
  <div
    class="bar"
    role="meter"
    :aria-valuenow="Math.round(filled * 100)"
    aria-valuemin="0"
    aria-valuemax="125"
    aria-label="How much of the target is on the scale, in per cent"
  >
    <span class="fill" :class="{ ok, much }" :style="{ width: `${filled * markAt}%` }" />
    <span class="mark-line" :style="{ left: `${markAt}%` }" />
  </div>
</template>

<style scoped>
.numbers {
  display: grid;
  gap: 24px;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  margin-top: 10px;
}

.numbers.alone {
  grid-template-columns: 1fr;
}

.numbers > div {
  display: flex;
  flex-direction: column;
}

.label {
  color: var(--ink-soft);
}

.huge {
  font-size: clamp(34px, 10.5vw, 74px);
  font-weight: 600;
  line-height: 1;
  white-space: nowrap;
}

.huge.words {
  font: 600 clamp(28px, 7vw, 44px) / 1.3 var(--slab);
  white-space: normal;
}

.live.ok .huge {
  color: var(--celadon-ink);
}

.live.much .huge {
  color: var(--oxblood);
}

.bar {
  background: var(--slip-sunk);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  height: 30px;
  margin: 12px 0;
  overflow: hidden;
  position: relative;
}

.fill {
  background: var(--clay);
  bottom: 0;
  left: 0;
  max-width: 100%;
  position: absolute;
  top: 0;
  transition: width 0.1s linear;
}

.fill.ok {
  background: var(--celadon);
}

.fill.much {
  background: repeating-linear-gradient(45deg, var(--oxblood) 0 8px, var(--ochre) 8px 16px);
}

.mark-line {
  border-left: 3px solid var(--ink);
  bottom: 0;
  position: absolute;
  top: 0;
}
</style>
