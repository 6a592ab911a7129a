<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Schemas } from '../../api/client'
import TabRow from '../../parts/TabRow.vue'
import Readings from './Readings.vue'
import type { FormulaStep } from './steps'
import type { useDraft } from './useDraft'
import type { Water } from './useWater'

// What stands beside a formula: its readings, and what can be asked of it, which is loaded
// when it is opened.
const TrialsOf = defineAsyncComponent(() => import('./TrialsOf.vue'))
const BesidePanel = defineAsyncComponent(() => import('./BesidePanel.vue'))
const MakePanel = defineAsyncComponent(() => import('./MakePanel.vue'))
const MapPanel = defineAsyncComponent(() => import('./MapPanel.vue'))
const SwapPanel = defineAsyncComponent(() => import('./SwapPanel.vue'))
const WishPanel = defineAsyncComponent(() => import('./WishPanel.vue'))

const props = defineProps<{
  id: string
  draft: ReturnType<typeof useDraft>
  assessment?: Schemas['Assessment']
  water: Water
  trouble: string
  behind: boolean
}>()
defineEmits<{ keep: [] }>()

const tabs = [
  { id: 'readings', name: 'Readings' },
  { id: 'make', name: 'Make it' },
  { id: 'map', name: 'Map' },
  { id: 'swap', name: 'Swap' },
  { id: 'wish', name: 'Wish' },
  { id: 'beside', name: 'Beside' },
] as const
const route = useRoute()
const router = useRouter()
/** Which stands open; in the address, so that it outlives a reload and a first keeping. */
const tab = computed({
  get: () => tabs.find((t) => t.id === route.query.panel)?.id ?? 'readings',
  set: (id) => void router.replace({ query: { ...route.query, panel: id === 'readings' ? undefined : id } }),
})

const asked = computed(() => ({
  file: props.draft.file.value,
  assessment: props.assessment,
  water: props.water,
}))

/** Grams as a maker writes them. */
function written(massG: number): string {
  return `${Number(massG.toPrecision(massG >= 1000 ? 4 : 3))} g`
}

function setAmounts(amounts: { line: number; massG: number }[]) {
  props.draft.change('', (f) => {
    for (const a of amounts) {
      const line = f.lines[a.line]
      if (line) line.amount = written(Math.max(0.1, a.massG))
    }
  })
}

function swapIn(line: number, _massG: number, leftG: number, by: Schemas['SwapCandidate']) {
  props.draft.change('', (f) => {
    const old = f.lines[line]
    if (!old) return
    // baked soda is soda ash by then
    const next = { ...old, material: by.bake ? 'sodium-carbonate' : by.material, amount: written(by.grams) }
    if (leftG < 0.05) f.lines.splice(line, 1, next)
    else {
      old.amount = written(leftG)
      f.lines.splice(line + 1, 0, next)
    }
  })
}

function takeSteps(steps: FormulaStep[]) {
  props.draft.change('', (f) => Object.assign(f, { steps, version: 3 }))
}

function takeOver(lines: Schemas['ProposedLine'][]) {
  props.draft.change('', (f) => {
    f.lines = lines.map((l) => ({ material: l.material, amount: l.amount }))
  })
}
</script>

<template>
  <section class="says">
    <TabRow v-model="tab" class="tabs" :tabs="tabs" label="What it says, and what can be asked of it" />
    <Readings
      v-show="tab === 'readings'"
      :class="{ behind }"
      :assessment="assessment"
      :water="water"
      :trouble="trouble"
    />
    <TrialsOf v-if="tab === 'readings' && id !== 'new'" :id="id" :version="draft.base.value" />
    <MakePanel
      v-if="tab === 'make'"
      :id="id === 'new' ? '' : id"
      :name="draft.file.value.name"
      :version="draft.base.value"
      :dirty="draft.dirty.value"
      :file="draft.file.value"
      @keep="$emit('keep')"
      @steps="takeSteps"
    />
    <MapPanel v-if="tab === 'map'" v-bind="asked" @set="setAmounts" />
    <SwapPanel v-if="tab === 'swap'" v-bind="asked" @swap="swapIn" />
    <WishPanel v-if="tab === 'wish'" v-bind="asked" @take="takeOver" />
    <BesidePanel
      v-if="tab === 'beside'"
      :id="id"
      :version="draft.base.value"
      :file="draft.file.value"
      :water="water"
    />
  </section>
</template>

<style scoped>
.says {
  min-width: 0;
  overflow: auto;
  padding: 16px 20px 40px;
}

.tabs {
  column-gap: 8px;
  justify-content: space-between;
  margin-bottom: 10px;
}

.behind {
  opacity: 0.55;
}

@media (max-width: 1100px) {
  .says {
    overflow: visible;
  }
}
</style>
