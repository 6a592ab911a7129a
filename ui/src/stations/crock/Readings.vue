<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import { count, grams, life, millilitres, money, spread } from '../../words'

const props = defineProps<{ assessment?: Schemas['Assessment'] }>()

const priced = computed(() => (props.assessment?.lines ?? []).filter((l) => l.cost !== undefined))
const nameOf = (id: string) => props.assessment?.lines.find((l) => l.material === id)?.name ?? id
const range = computed(() => (props.assessment ? spread(props.assessment.total_mass_g) : ''))
</script>

<template>
  <div v-if="assessment && assessment.total_mass_g.value > 0" class="readings">
    <details class="reading">
      <summary>
        <span class="what">{{ assessment.cost?.per_use ? 'A use costs' : 'It costs' }}</span>
        <span v-if="assessment.cost" class="num value">{{
          money(assessment.cost.per_use ?? assessment.cost.batch, assessment.cost.currency)
        }}</span>
        <span v-else class="soft">no price known</span>
        <span v-if="assessment.cost" class="soft small">
          {{ money(assessment.cost.batch, assessment.cost.currency) }} this much,
          {{ money(assessment.cost.per_kg, assessment.cost.currency) }} a kg
        </span>
      </summary>
      <table v-if="assessment.cost" class="rows">
        <tbody>
          <tr v-for="l in priced" :key="l.material">
            <td>{{ l.name }}</td>
            <td class="right num">{{ grams(l.mass_g.value) }}</td>
            <td class="right num">{{ money(l.cost, assessment.cost.currency) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="assessment.cost?.unpriced.length" class="watch small">
        Left out, since no price is known: {{ assessment.cost.unpriced.map(nameOf).join(', ') }}.
      </p>
      <p class="soft small">At what the lots on your shelf cost, each counted by what is left of it.</p>
    </details>

    <details class="reading">
      <summary>
        <span class="what">{{ assessment.uses ? 'Uses' : 'It weighs' }}</span>
        <span class="num value">{{
          assessment.uses ? count(assessment.uses.value) : grams(assessment.net_mass_g.value)
        }}</span>
        <span class="soft small">
          <template v-if="assessment.uses">of {{ grams(assessment.grams_per_use ?? 0) }} each, from </template
          >{{ grams(assessment.net_mass_g.value)
          }}<template v-if="assessment.volume_ml">, {{ millilitres(assessment.volume_ml.value) }}</template>
        </span>
      </summary>
      <table class="rows">
        <tbody>
          <tr v-for="(l, i) in assessment.lines" :key="i">
            <td>{{ l.name }}</td>
            <td class="right num">{{ grams(l.mass_g.value) }}</td>
            <td class="soft small">{{ spread(l.mass_g) || 'weighed or exact' }}</td>
            <td class="soft small">{{ l.density_source }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="range" class="small">
        Scooped, it weighs anything within {{ range }}. Weigh a cup on the shelf to close the range.
      </p>
      <p v-if="assessment.part_note" class="small">{{ assessment.part_note }}.</p>
    </details>

    <details class="reading">
      <summary>
        <span class="what">Keeps</span>
        <span class="num value">{{ life(assessment.keeping.days) }}</span>
        <span class="soft small">{{ assessment.keeping.class }}</span>
      </summary>
      <p class="small">
        {{ assessment.keeping.reason.charAt(0).toUpperCase() + assessment.keeping.reason.slice(1) }}. Made
        from fresh packs; a jar keeps no longer than the oldest lot in it. Common practice, from memory.
      </p>
    </details>

    <h3 class="mind">
      To mind <span class="soft small">{{ assessment.cautions.length }}</span>
    </h3>
    <CautionList :cautions="assessment.cautions" />
    <p v-if="assessment.cautions.length" class="soft small">{{ assessment.defer }}</p>
    <p v-if="assessment.order.length" class="small watch">
      Order of addition: {{ assessment.order.length }}
      {{ assessment.order.length === 1 ? 'line' : 'lines' }} to move, see the formula.
    </p>
  </div>
  <p v-else class="soft">Write a line, and what it weighs, costs and does stands here at once.</p>
</template>

<style scoped>
.reading {
  border-bottom: 1px solid var(--clay-line);
  padding: 8px 0 10px;
}

summary {
  cursor: pointer;
  display: grid;
  grid-template-columns: 1fr auto;
  list-style: none;
}

summary::-webkit-details-marker {
  display: none;
}

.what {
  align-self: end;
  font-size: 15px;
}

.what::before {
  color: var(--clay);
  content: '▸ ';
}

[open] .what::before {
  content: '▾ ';
}

.value {
  font-size: 32px;
  font-weight: 600;
  line-height: 1.05;
}

summary .soft {
  grid-column: 1 / 3;
  text-align: right;
}

.mind {
  margin: 16px 0 6px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
