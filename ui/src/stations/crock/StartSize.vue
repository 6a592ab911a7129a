<script setup lang="ts">
import { Radio, RadioGroup } from 'ant-design-vue'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { byScoop } from '../../parts/byScoop'
import CautionList from '../../parts/CautionList.vue'
import { count, grams, life, times } from '../../words'
import type { useStart } from './useStart'

// How much of it: as it is written, half, twice, or all that what is there allows.
const props = defineProps<{
  start: ReturnType<typeof useStart>
  starter: Schemas['Starter']
  /** What the amounts that were said come to. */
  read?: Schemas['SaidDelivery']
}>()
const { chosen, toNote } = props.start

/** As many times as what was said to be there, and the shelf, allow; undefined where nothing limits it. */
const most = computed(() => {
  let least = Infinity
  props.starter.lines.forEach((l) => {
    if (l.unstocked) return
    const said = chosen.there[l.material]
    if (said?.has && !said.amount.trim()) return
    const noted = toNote.value.findIndex((n) => n.material === l.material)
    const there = noted >= 0 ? (props.read?.lots[noted]?.mass_g ?? 0) / l.mass_g : (l.enough_for ?? 0)
    least = Math.min(least, there)
  })
  return Number.isFinite(least) ? Math.floor(least * 20) / 20 : undefined
})
const short = computed(() => most.value !== undefined && chosen.times > most.value + 1e-9)
const sizes = computed(() => {
  const all = [
    { times: 0.5, name: 'Half of it' },
    { times: 1, name: 'As it is written' },
    { times: 2, name: 'Twice' },
  ]
  const limit = most.value
  if (limit !== undefined && limit > 0 && !all.some((s) => s.times === limit))
    all.push({ times: limit, name: `All that is there allows, ${times(limit)}` })
  return all.map((s) => ({ ...s, tooMuch: limit !== undefined && s.times > limit + 1e-9 }))
})
const unread = computed(() => props.read?.questions.map((q) => q.detail) ?? [])
const amount = (l: Schemas['StarterLine']) =>
  chosen.times === 1 ? (byScoop.value ? l.scooped : l.weighed) : grams(l.mass_g * chosen.times)
</script>

<template>
  <RadioGroup v-model:value="chosen.times" class="sizes" name="times">
    <Radio v-for="s in sizes" :key="s.times" :value="s.times" :disabled="s.tooMuch">
      {{ s.name }}
      <span class="soft small"
        >{{ starter.pieces ? `${count(starter.pieces * s.times)} pieces` : grams(starter.makes_g * s.times)
        }}<template v-if="starter.uses && !starter.pieces"
          >, about {{ count(Math.round(starter.uses * s.times)) }} uses</template
        ><template v-if="s.tooMuch">: more than is there</template></span
      >
    </Radio>
  </RadioGroup>
  <p v-for="u in unread" :key="u" class="bad" role="alert">{{ u }}</p>
  <p v-if="short" class="bad" role="alert">What is there is too little for that. Make less.</p>
  <table class="rows">
    <caption class="unseen">
      What goes in
    </caption>
    <tbody>
      <tr v-for="l in starter.lines" :key="l.material">
        <td>{{ l.name }}</td>
        <td class="right num">{{ amount(l) }}</td>
      </tr>
    </tbody>
  </table>
  <p>
    <strong>{{ starter.name }}</strong> keeps about {{ life(starter.keeps_days) }}.
  </p>
  <CautionList v-if="starter.cautions.length" :cautions="starter.cautions" />
  <p v-if="toNote.length" class="soft small">
    What you ticked is noted on the shelf, without a price. Put the price in when you know it.
  </p>
</template>

<style scoped>
.sizes {
  display: flex;
  flex-direction: column;
  margin-bottom: 12px;
}

.sizes :deep(.ant-radio-wrapper) {
  align-items: center;
  font-size: 16px;
  min-height: 48px;
}

table {
  margin-bottom: 10px;
}

.num {
  font-size: 18px;
}
</style>
