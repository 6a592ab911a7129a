<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Of } from '../../api/batch'
import { canMake } from '../../api/session'
import { grams, percent } from '../../words'

// A line that is added little by little: how much of its budget is in, how much of
// the dry mass that is, the gas it has cost, and doses by drop, spoon or puff.
const props = defineProps<{ of: Of; line: number; busy: boolean }>()
const emit = defineEmits<{ dose: [grams: number] }>()

const step = computed(() => {
  const b = props.of.batch.value
  return b && b.step !== undefined ? b.steps?.[b.step] : undefined
})
const budget = computed(() => step.value?.budgets?.find((b) => b.line === props.line))
const doses = computed(() => {
  switch (budget.value?.each) {
    case 'teaspoon':
      return [0.25, 0.5, 1]
    case 'puff':
      return [1, 5, 10]
    default:
      return [5, 10, 20]
  }
})
const name = (n: number) => {
  const each = budget.value?.each ?? 'drop'
  const count = n === 0.25 ? '¼' : n === 0.5 ? '½' : String(n)
  return `${count} ${each}${n > 1 ? 's' : ''}`
}
const filled = computed(() =>
  budget.value ? Math.min(1.2, budget.value.used_g / (budget.value.target_g || 1)) : 0,
)
const last = ref('')
function dose(n: number) {
  const g = Math.round(n * (budget.value?.each_g ?? 0) * 1000) / 1000
  last.value = name(n)
  emit('dose', g)
}
</script>

<template>
  <section v-if="budget && step" class="slow" aria-label="Added slowly">
    <p v-if="step.text" class="why">{{ step.text }}</p>
    <div class="facts">
      <span>
        <strong class="num">{{ grams(budget.used_g) }}</strong> of {{ grams(budget.target_g) }} in
      </span>
      <span>
        <strong class="num">{{ percent(budget.share_of_dry) }}</strong> of the dry mass
      </span>
      <span v-if="budget.gas_spent">
        <strong class="num">{{ percent(budget.gas_spent) }}</strong> of the fizz spent
      </span>
    </div>
    <div
      class="bar"
      role="meter"
      :aria-valuenow="Math.round(100 * filled)"
      aria-valuemin="0"
      aria-valuemax="120"
      aria-label="How much of its budget is in, in per cent"
    >
      <span :class="{ much: filled > 1.02 }" :style="{ width: `${filled * 80}%` }" />
      <i style="left: 80%" />
    </div>
    <div v-if="canMake" class="doses">
      <button v-for="n in doses" :key="n" class="big-do" type="button" :disabled="busy" @click="dose(n)">
        + {{ name(n) }}
      </button>
      <button
        class="big-do enough"
        type="button"
        :disabled="of.act.isPending.value"
        @click="of.act.mutate({ kind: 'step-done', step: step.step })"
      >
        It is enough
      </button>
    </div>
  </section>
</template>

<style scoped>
.why {
  font-size: 18px;
  margin: 6px 0;
}

.facts {
  display: flex;
  flex-wrap: wrap;
  font-size: 17px;
  gap: 4px 26px;
}

.facts strong {
  font-size: 26px;
}

.bar {
  background: var(--slip-sunk);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  height: 18px;
  margin: 8px 0;
  position: relative;
}

.bar span {
  background: var(--celadon);
  bottom: 0;
  left: 0;
  max-width: 100%;
  position: absolute;
  top: 0;
}

.bar span.much {
  background: var(--ochre);
}

.bar i {
  border-left: 3px solid var(--ink);
  bottom: 0;
  position: absolute;
  top: 0;
}

.doses {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 0;
}

.enough {
  background: var(--cobalt);
  color: var(--on-cobalt);
  margin-left: auto;
}
</style>
