<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { session } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import { figures } from '../../words'
import type { Water } from './useWater'

const props = defineProps<{ water: Water; chemistry?: Schemas['Chemistry']; trouble?: string }>()

const typed = (e: Event) => (e.target as HTMLInputElement).value
const bases = {
  given: 'as you say',
  'of-use': 'one use in its water',
  usual: 'as makers usually dose it: say one use',
  neat: 'used as it is',
  assumed: 'assumed: say one use',
} as const
const hardness = computed(() => props.water.asked.hardness || session.value?.workshop.hardness)
const strength = computed(() => {
  const use = props.chemistry?.use
  if (!use) return ''
  return use.grams_per_litre > 0 ? `${figures(use.grams_per_litre)} g/l` : 'neat'
})
</script>

<template>
  <div class="water">
    <label>
      <span class="field-label">Used at</span>
      <input
        class="plain-field"
        :value="water.asked.strength"
        name="strength"
        :placeholder="strength"
        @input="water.ask({ strength: typed($event) })"
      />
    </label>
    <label>
      <span class="field-label">Hardness<AboutThis of="hardness" /></span>
      <input
        class="plain-field"
        :value="water.asked.hardness"
        name="hardness"
        :placeholder="session?.workshop.hardness || 'none'"
        @input="water.ask({ hardness: typed($event) })"
      />
    </label>
    <label>
      <span class="field-label">°C</span>
      <input
        class="plain-field"
        :value="water.asked.celsius"
        name="celsius"
        type="number"
        min="15"
        max="60"
        step="5"
        @input="water.ask({ celsius: Number(typed($event)) || 25 })"
      />
    </label>
    <p v-if="trouble" class="bad small" role="alert">{{ trouble }}</p>
    <p v-else-if="chemistry" class="soft small">
      {{ strength }}, {{ bases[chemistry.use.basis]
      }}<template v-if="hardness">; in water of {{ hardness }}</template>
    </p>
  </div>
</template>

<style scoped>
.water {
  display: grid;
  gap: 0 8px;
  grid-template-columns: 1.2fr 1.2fr 62px;
}

p {
  grid-column: 1 / 4;
  margin: 3px 0 2px;
}
</style>
