<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import HazardScreen from '../../parts/HazardScreen.vue'
import Reading from '../../parts/Reading.vue'
import { count, figures, grams, life, millilitres, money, moneyAtLeast, spread } from '../../words'
import BottleAndUse from './BottleAndUse.vue'
import ChemistryReadings from './ChemistryReadings.vue'
import { costMeans, keepsMeans, weighsMeans } from './meanings'
import type { Water } from './useWater'
import WaterBar from './WaterBar.vue'

const props = defineProps<{ assessment?: Schemas['Assessment']; water: Water; trouble: string }>()

const priced = computed(() => (props.assessment?.lines ?? []).filter((l) => l.cost !== undefined))
const nameOf = (id: string) => props.assessment?.lines.find((l) => l.material === id)?.name ?? id
const range = computed(() => (props.assessment ? spread(props.assessment.total_mass_g) : ''))
const heeded = computed(() => (props.assessment?.cautions ?? []).filter((c) => c.severity !== 'note'))
const notes = computed(() => (props.assessment?.cautions ?? []).filter((c) => c.severity === 'note'))
const waterTrouble = computed(
  () => props.trouble || props.assessment?.problems.find((p) => p.field === 'use')?.detail,
)
const cost = computed(() => props.assessment?.cost)
const costUnder = computed(() => {
  const c = cost.value
  if (!c) return undefined
  const missing = c.unpriced.length ? `, ${c.unpriced.map(nameOf).join(', ')} without a price` : ''
  return `${money(c.batch, c.currency)} this much, ${money(c.per_kg, c.currency)} a kg${missing}`
})
/** What it may cost, as long as it is scooped and the lots differ. */
const costRange = computed(() => {
  const c = cost.value
  const range = c?.per_use ? c.per_use_range : c?.batch_range
  return c && range ? `${money(range.low, c.currency)} to ${money(range.high, c.currency)}` : ''
})
</script>

<template>
  <div v-if="assessment && assessment.total_mass_g.value > 0" class="readings">
    <CautionList v-if="heeded.length" :cautions="heeded" />
    <p v-if="heeded.length" class="soft small defer">{{ assessment.defer }}</p>
    <BottleAndUse v-if="assessment.chemistry" :bottle="assessment.bottle!" :use="assessment.use!" />
    <HazardScreen v-if="assessment.hazard" :hazard="assessment.hazard" />
    <WaterBar :water="water" :chemistry="assessment.chemistry" :trouble="waterTrouble" />

    <Reading
      large
      :what="cost?.per_use ? 'A use costs' : 'It costs'"
      :value="cost ? moneyAtLeast(cost.per_use ?? cost.batch, cost.currency, cost.unpriced) : 'no price'"
      :under="costUnder"
      :means="costMeans"
    >
      <table v-if="cost" class="rows">
        <tbody>
          <tr v-for="l in priced" :key="l.material">
            <td>{{ l.name }}</td>
            <td class="right num">{{ grams(l.mass_g.value) }}</td>
            <td class="right num">{{ money(l.cost, cost.currency) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="costRange">
        Anything from {{ costRange }}: as it is scooped, and as your lots differ in price.
      </p>
      <p v-if="cost?.unpriced.length" class="watch">
        At least that: no price is known of {{ cost.unpriced.map(nameOf).join(', ') }}. Note what it cost on
        the shelf.
      </p>
      <p class="soft">At what the lots on your shelf cost, each counted by what is left of it.</p>
    </Reading>

    <Reading
      v-if="assessment.neutralise?.length"
      what="To neutralise"
      :value="grams(assessment.neutralise[0]?.base_g.value ?? 0)"
      :under="`of ${assessment.neutralise[0]?.name.toLowerCase()}, for its sulfonic acid`"
      tone="watch"
    >
      <p v-for="n in assessment.neutralise" :key="n.with">
        <strong>{{ n.name }} {{ grams(n.base_g.value) }}</strong> ({{ grams(n.base_g.low) }} to
        {{ grams(n.base_g.high) }}), {{ n.gas_ml ? `${millilitres(n.gas_ml)} of gas, ` : ''
        }}{{ figures(n.heat_kj) }} kJ of heat. {{ n.order }}
      </p>
      <p>Acid value 180 mg KOH/g, common practice: the pack says its own.</p>
    </Reading>
    <ChemistryReadings v-if="assessment.chemistry" :chemistry="assessment.chemistry" />

    <Reading
      :what="assessment.uses ? 'Uses' : 'It weighs'"
      :value="assessment.uses ? count(assessment.uses.value) : grams(assessment.net_mass_g.value)"
      :under="
        [
          assessment.uses ? `of ${grams(assessment.grams_per_use ?? 0)} each, from ` : '',
          grams(assessment.net_mass_g.value),
          assessment.volume_ml ? `, ${millilitres(assessment.volume_ml.value)}` : '',
        ].join('')
      "
      :means="weighsMeans"
    >
      <table class="rows">
        <tbody>
          <tr v-for="(l, i) in assessment.lines" :key="i">
            <td>{{ l.name }}</td>
            <td class="right num">{{ grams(l.mass_g.value) }}</td>
            <td class="soft">{{ spread(l.mass_g) || 'weighed or exact' }}</td>
            <td class="soft">{{ l.density_source }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="range">
        Scooped, it weighs anything within {{ range }}. Weigh a cup on the shelf to close the range.
      </p>
      <p v-if="assessment.part_note">{{ assessment.part_note }}.</p>
    </Reading>

    <Reading
      what="Keeps"
      :value="life(assessment.keeping.days)"
      :under="assessment.keeping.class"
      :means="keepsMeans"
    >
      <p>
        {{ assessment.keeping.reason.charAt(0).toUpperCase() + assessment.keeping.reason.slice(1) }}. Made
        from fresh packs; a jar keeps no longer than the oldest lot in it. Held against pH 4.6 (21 CFR 114)
        and a water activity of 0.85; the rest is common practice, from memory.
      </p>
    </Reading>

    <details v-if="notes.length" class="mind">
      <summary>{{ notes.length }} {{ notes.length === 1 ? 'thing' : 'things' }} good to know</summary>
      <CautionList :cautions="notes" />
      <p class="soft small">{{ assessment.defer }}</p>
    </details>
    <p v-if="assessment.order.length" class="small watch">
      Order of addition: {{ assessment.order.length }}
      {{ assessment.order.length === 1 ? 'line' : 'lines' }} to move, see the formula.
    </p>
  </div>
  <p v-else class="soft">Write a line, and what it weighs, costs and does stands here at once.</p>
</template>

<style scoped>
.mind {
  margin: 14px 0 6px;
}

.mind summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  margin-bottom: 6px;
}

.defer {
  margin: 0 0 4px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
