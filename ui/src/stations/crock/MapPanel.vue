<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watchEffect } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import { grams } from '../../words'
import ReadingMap from './ReadingMap.vue'
import type { Water } from './useWater'

// Two amounts swept: a map of a reading, with the present point, where it is
// safe, and the other schools. Dragging the point changes the formula, as one
// step to undo.
const props = defineProps<{
  file: Schemas['FormulaFile']
  assessment?: Schemas['Assessment']
  water: Water
}>()
const emit = defineEmits<{ set: [amounts: { line: number; massG: number }[]] }>()

const readings: { value: Schemas['ReadingName']; label: string }[] = [
  { value: 'closed-ph', label: 'pH, gas in it' },
  { value: 'vented-ph', label: 'pH, gas gone' },
  { value: 'curdled', label: 'soap turned to fat' },
  { value: 'soap-lost', label: 'soap lost to scum' },
  { value: 'hardness-left', label: 'hardness left' },
  { value: 'gas', label: 'gas' },
  { value: 'alkalinity', label: 'free alkalinity' },
]
const reading = ref<Schemas['ReadingName']>('closed-ph')
const lines = computed(() => props.assessment?.lines ?? [])
const x = ref(0)
const y = ref(1)
const linesBut = (taken: number) =>
  lines.value.map((l, i) => ({ value: i, label: l.name, disabled: i === taken }))
const most = ref<[number, number]>([0, 0])

// the largest two lines to begin with; the ends of a map stay while its point moves
watchEffect(() => {
  if (most.value[0] === 0 && lines.value.length > 1) {
    const bySize = lines.value.map((l, i) => ({ i, g: l.mass_g.value })).sort((a, b) => b.g - a.g)
    const [first, second] = bySize
    if (!first || !second) return
    x.value = first.i
    y.value = second.i
    choose()
  }
})

function choose() {
  const total = props.assessment?.total_mass_g.value ?? 0
  const end = (i: number) => Math.max(2 * (lines.value[i]?.mass_g.value ?? 0), total * 0.1)
  most.value = [end(x.value), end(y.value)]
}

const question = computed(() => ({
  file: { ...props.file, name: props.file.name || 'Unnamed' },
  reading: reading.value,
  x: { line: x.value, from_g: 0, to_g: most.value[0], steps: 65 },
  y: { line: y.value, from_g: 0, to_g: most.value[1], steps: 65 },
}))
const settled = useSettled(question, 120)
const {
  data: map,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => ['whatif', settled.value, props.water.query.value]),
  queryFn: ({ signal }) =>
    ask(api.POST('/api/whatif', { params: { query: props.water.query.value }, body: settled.value, signal })),
  enabled: computed(() => settled.value.x.to_g > 0 && settled.value.y.to_g > 0 && x.value !== y.value),
  placeholderData: keepPreviousData,
  gcTime: 30_000,
  retry: false,
})

function moved(xG: number, yG: number) {
  emit('set', [
    { line: x.value, massG: xG },
    { line: y.value, massG: yG },
  ])
}
</script>

<template>
  <div class="map-panel">
    <p v-if="lines.length < 2" class="soft">A map needs two lines.</p>
    <template v-else>
      <div class="panel-form">
        <Choice v-model="reading" class="wide" label="Map of" :options="readings" />
        <Choice v-model="x" label="across" :options="linesBut(y)" @chosen="choose" />
        <Choice v-model="y" label="upward" :options="linesBut(x)" @chosen="choose" />
      </div>
      <Looking v-if="error" :error="error" @again="refetch()" />
      <ReadingMap
        v-else-if="map && map.values.length"
        :map="map"
        :x-most="settled.x.to_g"
        :y-most="settled.y.to_g"
        :x-name="lines[x]?.name ?? ''"
        :y-name="lines[y]?.name ?? ''"
        :frozen="!canMake"
        @moved="moved"
      />
      <p v-if="map" class="small soft">
        Here {{ grams(map.here.x_g) }} and {{ grams(map.here.y_g) }}, everything else as it is, at the same
        strength. Drag the point, or move it with the arrow keys; Ctrl Z takes it back.
      </p>
    </template>
  </div>
</template>
