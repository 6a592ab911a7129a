<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { Button, Checkbox, Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake, currency } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import { grams, money } from '../../words'
import type { Water } from './useWater'

// What replaces so many grams of a line, by what it does. Accepting one is one
// step to undo.
const props = defineProps<{
  file: Schemas['FormulaFile']
  assessment?: Schemas['Assessment']
  water: Water
}>()
const emit = defineEmits<{
  swap: [line: number, grams: number, leftG: number, by: Schemas['SwapCandidate']]
}>()

const lines = computed(() => props.assessment?.lines ?? [])
const line = ref(0)
const wanted = ref('')
const everything = ref(false)
watch(line, () => (wanted.value = ''))

const have = computed(() => lines.value[line.value]?.mass_g.value ?? 0)
const massG = computed(() => (wanted.value.trim() ? Number(wanted.value.replace(',', '.')) : have.value))
const question = computed(() => ({
  file: { ...props.file, name: props.file.name || 'Unnamed' },
  line: line.value,
  whole_library: everything.value,
  ...(wanted.value.trim() && Number.isFinite(massG.value) ? { grams: massG.value } : {}),
}))
const settled = useSettled(question, 150)
const {
  data: found,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => ['swaps', settled.value, props.water.query.value]),
  queryFn: ({ signal }) =>
    ask(api.POST('/api/swaps', { params: { query: props.water.query.value }, body: settled.value, signal })),
  enabled: computed(() => have.value > 0),
  placeholderData: keepPreviousData,
  gcTime: 30_000,
  retry: false,
})
</script>

<template>
  <div>
    <div class="panel-form">
      <label>
        <span class="field-label">What replaces</span>
        <Input
          v-model:value="wanted"
          name="swap-grams"
          inputmode="decimal"
          :placeholder="have.toFixed(0)"
          suffix="g"
        />
      </label>
      <Choice v-model="line" label="of" :options="lines.map((l, i) => ({ value: i, label: l.name }))" />
      <Checkbox v-model:checked="everything" class="wide">not only from my shelf</Checkbox>
    </div>
    <Looking v-if="error" :error="error" @again="refetch()" />
    <p v-else-if="found?.length === 0" class="soft">
      Nothing on the shelf does the same. Look beyond it, or take in a delivery.
    </p>
    <ul v-else>
      <li v-for="c in found ?? []" :key="c.material + (c.bake ? 'b' : '')">
        <div class="head">
          <strong>{{ c.name }}{{ c.bake ? ', baked' : '' }}</strong>
          <span class="num big">{{ grams(c.grams) }}</span>
        </div>
        <p class="small">
          {{ c.why }}
          <span v-if="c.cost" class="soft">{{ money(c.cost, currency) }}.</span>
        </p>
        <ul v-if="c.changes.length" class="changes small">
          <li v-for="t in c.changes" :key="t">{{ t }}</li>
        </ul>
        <Button v-if="canMake" :disabled="!c.enough" @click="emit('swap', line, massG, have - massG, c)">
          Swap it in
        </Button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
}

ul > li {
  border-top: 1px solid var(--clay-line);
  padding: 8px 0 10px;
}

.head {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

.head strong {
  font-family: var(--slab);
  font-size: 17px;
}

.big {
  font-size: 20px;
  font-weight: 600;
}

p {
  margin: 2px 0 4px;
}

.changes {
  margin: 0 0 6px;
}

.changes li {
  border: 0;
  color: var(--ochre-ink);
  padding: 0;
}
</style>
