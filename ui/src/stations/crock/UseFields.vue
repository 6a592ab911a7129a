<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import PhFields from '../../parts/PhFields.vue'
import type { useDraft } from './useDraft'

// How a formula is used and what it gives: one use and its water, the yield,
// what is lost in making, and the pH that was measured of it.
const props = defineProps<{ draft: ReturnType<typeof useDraft>; assessment?: Schemas['Assessment'] }>()

const typed = (e: Event) => (e.target as HTMLInputElement).value
const names: Record<string, string> = {
  uses: 'One use',
  'uses.water': 'Its water',
  yield: 'It gives',
  loss: 'Lost',
  measured_ph: 'Measured pH',
}
/** What is asked of the formula as a whole, rather than of a line. */
const asked = computed(() => (props.assessment?.questions ?? []).filter((q) => q.line === undefined))

function setYield(value: string) {
  props.draft.change('yield', (d) => (d.yield = value ? { amount: value } : undefined))
}
function setUse(part: 'amount' | 'water', value: string) {
  props.draft.change(`uses.${part}`, (d) => {
    const uses = { amount: '', ...d.uses, [part]: value }
    d.uses = uses.amount || uses.water ? uses : undefined
  })
}
function setLoss(value: string) {
  props.draft.change('loss', (d) => (d.loss = Number(value || 0) / 100))
}
function setMeasured(m: Schemas['MeasuredPh'] | undefined) {
  props.draft.change('measured_ph', (d) => (d.measured_ph = m))
}
const doses = computed(() => props.draft.file.value.doses ?? [])
function dropDose(i: number) {
  props.draft.change('', (d) => (d.doses = d.doses?.filter((_, at) => at !== i)))
}
const measured = computed(() => props.draft.file.value.measured_ph)
</script>

<template>
  <div>
    <div class="fields">
      <label>
        <span class="field-label">One use is<AboutThis of="use" /></span>
        <input
          class="plain-field"
          :value="draft.file.value.uses?.amount ?? ''"
          placeholder="1 tbsp"
          name="uses"
          :readonly="!canMake"
          @input="setUse('amount', typed($event))"
        />
      </label>
      <label>
        <span class="field-label">into<AboutThis of="into" /></span>
        <input
          class="plain-field"
          :value="draft.file.value.uses?.water ?? ''"
          placeholder="as usual"
          name="uses-water"
          :readonly="!canMake"
          @input="setUse('water', typed($event))"
        />
      </label>
      <label>
        <span class="field-label">It gives<AboutThis of="gives" /></span>
        <input
          class="plain-field"
          :value="draft.file.value.yield?.amount ?? ''"
          placeholder="24 tabs, 10 l"
          name="yield"
          :readonly="!canMake"
          @input="setYield(typed($event))"
        />
      </label>
      <label>
        <span class="field-label">Lost, %<AboutThis of="lost" /></span>
        <input
          class="plain-field"
          :value="Math.round((draft.file.value.loss ?? 0) * 100)"
          type="number"
          min="0"
          max="50"
          step="1"
          name="loss"
          :readonly="!canMake"
          @input="setLoss(typed($event))"
        />
      </label>
    </div>
    <p v-if="doses.length" class="doses small">
      <span class="soft">By machine:</span>
      <span v-for="(d, i) in doses" :key="i" class="dose">
        {{ d.for ? d.for.replace('-', ' ') : 'any' }} <strong class="num">{{ d.amount }}</strong><template
          v-if="d.water"
        >
          in {{ d.water }}</template
        >
        <button
          v-if="canMake"
          class="plain x"
          type="button"
          :aria-label="`Take the dose of ${d.for ?? 'any machine'} away`"
          @click="dropDose(i)"
        >
          ×
        </button>
      </span>
    </p>
    <div class="measured small soft">
      <PhFields
        what="pH as measured"
        name="measured-ph"
        :model-value="measured"
        :frozen="!canMake"
        @update:model-value="setMeasured"
      />
      <AboutThis of="measuredPh" />
      <span v-if="measured">stands in place of the one worked out</span>
    </div>
    <p v-for="q in asked" :key="q.code + q.field" class="asked small" role="status">
      {{ names[q.field] ? `${names[q.field]}: ` : '' }}{{ q.detail }}
    </p>
  </div>
</template>

<style scoped>
.asked {
  color: var(--cobalt);
}

.fields {
  border-top: 1px solid var(--clay-line);
  display: grid;
  gap: 10px;
  grid-template-columns: 1.1fr 0.9fr 1.2fr 0.7fr;
  margin-top: 14px;
  padding-top: 12px;
}

.doses {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 8px 0 0;
}

.x {
  min-height: 24px;
  min-width: 24px;
}

.measured {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  margin-top: 8px;
}
</style>
