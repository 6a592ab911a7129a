<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import Reading from '../../parts/Reading.vue'
import { between, figures, millilitres, percent, within } from '../../words'
import HardnessBar from './HardnessBar.vue'
import { fizzMeans, hardnessMeans, lumpsMeans, phMeans, soapMeans, strengthMeans } from './meanings'
import PhStrip from './PhStrip.vue'

// What the formula does in its water, each reading with its numbers and where
// they are from.
const props = defineProps<{ chemistry: Schemas['Chemistry'] }>()
const c = computed(() => props.chemistry)

const phText = computed(() => {
  const { closed, vented } = c.value.ph_range
  if (c.value.beyond_model) return `${closed.low.toFixed(1)}–${closed.high.toFixed(1)}`
  return c.value.gas_shifts_ph
    ? `${closed.value.toFixed(1)} → ${vented.value.toFixed(1)}`
    : closed.value.toFixed(1)
})
const tone = (v: Schemas['Verdict']) => (v === 'plain' ? undefined : v)

/** The soap in its bottle, where some that can be seen is turned in there already. */
const inBottle = computed(() => {
  const b = c.value.in_bottle
  return b && b.soap_curdled_share > 0.01 ? b : undefined
})
const curdled = computed(() =>
  Math.max(inBottle.value?.soap_curdled_share ?? 0, c.value.soap_curdled_by_good),
)
const soapText = computed(() => {
  switch (c.value.verdicts.soap) {
    case 'stop':
      return `${percent(curdled.value)} curdles`
    case 'watch':
      return curdled.value > c.value.limits.curdled_warn
        ? `${percent(curdled.value)} is lost`
        : `${percent(c.value.hardness.soap_lost_share)} is scum`
    default:
      return 'safe'
  }
})
const soapUnder = computed(() => {
  const b = inBottle.value
  if (b) return `${percent(b.soap_curdled_share)} already in the bottle, at pH ${b.ph.toFixed(1)}`
  const { soap, hardness } = c.value.verdicts
  return soap === 'watch' && hardness === 'watch' && curdled.value <= c.value.limits.curdled_warn
    ? 'safe from acid, but the hardness of your water takes it'
    : undefined
})
const limit = computed(
  () =>
    ({
      acid: 'The acid runs out first',
      soda: 'The soda runs out first',
      none: 'There is no acid, or no soda',
    })[c.value.gas_limited_by],
)
</script>

<template>
  <p v-for="u in c.unknown" :key="u.material" class="vouch small" role="note">
    It cannot vouch for <strong>{{ u.name }}</strong>, and the readings below leave it out: it would need
    {{ u.needs }}.
  </p>

  <Reading what="pH" :value="phText" :tone="tone(c.verdicts.ph)" :means="phMeans(c)">
    <template #drawn><PhStrip :chemistry="c" /></template>
    <p>
      ● with the gas still in it {{ c.ph.closed.toFixed(2) }}, ○ after it has left
      {{ c.ph.vented.toFixed(2) }}. Scooped, {{ c.ph_range.closed.low.toFixed(1) }}–{{
        c.ph_range.closed.high.toFixed(1)
      }}. Hatched, skin and eyes burn: below {{ c.limits.burns_below_ph }} and above
      {{ c.limits.burns_above_ph }}.
    </p>
    <p v-if="c.beyond_model" class="watch">
      At an ionic strength of {{ figures(c.ionic_strength) }} mol/kg it is too strong for the model: take the
      range, not a digit of it.
    </p>
    <p>
      Charges balanced over every acid and base, activities by Davies at an ionic strength of
      {{ figures(c.ionic_strength) }} mol/kg. Constants: Plummer &amp; Busenberg 1982, CRC Handbook. It takes
      {{ figures(c.buffer_mmol_per_ph) }} mmol/l of acid to move it by one.
      <template v-if="c.held_at_25.length">Held at 25 °C: {{ c.held_at_25.join(', ') }}.</template>
    </p>
  </Reading>

  <Reading
    :what="c.free_alkalinity_g_per_l_na2o < 0 ? 'Acid left over' : 'Strength left to clean'"
    :means="strengthMeans(c)"
    :value="`${figures(Math.abs(c.free_alkalinity_g_per_l_na2o))} g/l`"
    :under="
      c.free_alkalinity_g_per_l_na2o < 0
        ? undefined
        : within(c.free_alkalinity_range).replace(/^, (.+)$/, '$1 g/l, as it is scooped') || undefined
    "
  >
    <p>
      Free alkalinity: equivalents of alkali less those of acid, as 31.0 g of Na₂O each. A titration with acid
      would take
      {{ figures(c.titration_mmol_per_l.to_8_3) }} mmol/l to pH 8.3 and
      {{ figures(c.titration_mmol_per_l.to_4_5) }} mmol/l to pH 4.5.
    </p>
    <p v-if="c.soda_spent_share > 0">
      Acid spends {{ percent(Math.min(1, c.soda_spent_share)) }} of the alkali.
    </p>
  </Reading>

  <Reading
    v-if="c.has_soap"
    what="Soap"
    :value="soapText"
    :tone="tone(c.verdicts.soap)"
    :under="soapUnder"
    :means="soapMeans(c)"
  >
    <p>
      {{ percent(c.soap_curdled_share) }} of the soap is fatty acid at pH {{ c.ph.closed.toFixed(1) }};
      scooped, {{ between(c.soap_curdled_range) }}. The water alone would turn
      {{ percent(c.soap_curdled_by_water) }}; of what it leaves, the rest of this turns
      {{ percent(c.soap_curdled_by_good) }}. Soap is taken as an acid of apparent pKa 8.0, from memory: 7.5
      for coconut, 8.8 for tallow.
    </p>
    <p>
      Over {{ percent(c.limits.curdled_warn) }} is a warning, over {{ percent(c.limits.curdled_stop) }} a
      stop.
    </p>
  </Reading>

  <Reading
    v-if="c.co2_ml_per_kg > 0"
    what="Fizz"
    :means="fizzMeans(c)"
    :value="millilitres(c.co2_ml_per_kg)"
    :under="`of gas from a kilogram; ${limit.charAt(0).toLowerCase()}${limit.slice(1)}`"
  >
    <p>
      {{ figures(c.co2_mg_per_kg / 1000) }} g of carbon dioxide to a kilogram, at 25 °C; scooped,
      {{ millilitres(c.co2_range.low) }} to {{ millilitres(c.co2_range.high) }}. 1 g of citric acid and 1.312
      g of baking soda give 382 ml. {{ limit
      }}<template v-if="c.gas_left"
        >, and {{ figures(c.gas_left.g_per_kg) }} g of {{ c.gas_left.name.toLowerCase() }} to a kilogram are
        left</template
      >.
    </p>
    <p v-if="c.spent_in_bowl_share > 0">
      Its liquid spends {{ percent(c.spent_in_bowl_share) }} of the soda while you mix.
    </p>
  </Reading>

  <Reading
    v-if="c.hardness.total > 0"
    what="Hardness your water still has"
    :value="percent(1 - c.hardness.met_range.value)"
    :means="hardnessMeans(c)"
    :tone="tone(c.verdicts.hardness)"
    :under="c.has_soap ? `${percent(c.hardness.soap_lost_share)} of the soap is lost to scum` : undefined"
  >
    <template #drawn><HardnessBar :hardness="c.hardness" /></template>
    <p>
      Of {{ figures(c.hardness.total) }} mmol/l, if soda and citrate go in before the soap. Calcite by its
      solubility product (log K −8.48, Plummer &amp; Busenberg), citrate by log K 4.7 (NIST 46, from memory);
      four fifths of the hardness is taken as calcium.
      <template v-if="c.has_soap">
        Two soaps go to each calcium that is left: {{ figures(c.hardness.soap_lost_g_per_l) }} of
        {{ figures(c.hardness.soap_g_per_l) }} g/l.
      </template>
      Scooped, about {{ between(c.hardness.met_range) }} is met<template v-if="c.has_soap"
        >, and {{ between(c.hardness.soap_lost_range) }} of the soap lost</template
      >.
    </p>
  </Reading>

  <Reading
    v-if="c.caking_above_rh"
    what="Lumps in air damper than"
    :value="`${c.caking_above_rh.toFixed(0)} %`"
    :means="lumpsMeans"
    :tone="tone(c.verdicts.caking)"
    :under="c.caking ? `${c.caking.culprit_name.toLowerCase()} pulls it down most` : undefined"
  >
    <p>
      Relative humidity. The product of what each drinks from alone (Ross 1975).
      <template v-for="w in c.caking?.without ?? []" :key="w.material">
        Without {{ w.name.toLowerCase() }}: {{ w.above_rh.toFixed(0) }} %.
      </template>
    </p>
  </Reading>

  <Reading
    v-for="u in c.undissolved"
    :key="u.material"
    :what="u.name"
    value="will not all dissolve"
    tone="watch"
  >
    <p>
      100 g of water hold {{ figures(u.holds_g) }} g of it at 20 °C, dry; here are {{ figures(u.wants_g) }} g.
      Leave some out, or keep it warm. CRC Handbook, from memory.
    </p>
  </Reading>
</template>

<style scoped>
.vouch {
  background: var(--ochre-wash);
  border-left: 4px solid var(--ochre);
  margin: 6px 0;
  padding: 6px 10px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
