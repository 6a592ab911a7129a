<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { Button, Checkbox, Input } from 'ant-design-vue'
import { computed, reactive } from 'vue'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import { canMake, currency } from '../../api/session'
import { figures, grams, money, sentence } from '../../words'
import type { Water } from './useWater'

// A formula for wanted readings. What is left empty is not wished for.
const props = defineProps<{
  file: Schemas['FormulaFile']
  assessment?: Schemas['Assessment']
  water: Water
}>()
const emit = defineEmits<{ take: [Schemas['ProposedLine'][]] }>()
const { data: materials } = useMaterials()

const wish = reactive({
  phLow: '',
  phHigh: '',
  alkalinity: '',
  chelates: '',
  gas: '',
  cost: '',
  keeps: '',
  boraxFree: false,
  noEyeDamage: false,
  noSignalWord: false,
  onlyShelf: false,
  more: '',
})
const bounds = reactive<Record<string, { min: string; max: string }>>({})
const lines = computed(() => props.assessment?.lines ?? [])
const others = computed(() =>
  wish.more
    .split(',')
    .map((s) => s.trim())
    .filter(Boolean),
)
const bounded = computed(() => [...new Set(lines.value.map((l) => l.material))])
const nameOf = (id: string) => lines.value.find((l) => l.material === id)?.name ?? id
const bound = (id: string) => (bounds[id] ??= { min: '', max: '' })
const number = (s: string) => Number(s.replace(',', '.'))

const ask4 = useMutation({
  mutationFn: () => {
    const body: Schemas['GoalQuestion'] = {
      file: { ...props.file, name: props.file.name || 'Unnamed' },
      materials: others.value,
      borax_free: wish.boraxFree,
      no_eye_damage: wish.noEyeDamage,
      no_signal_word: wish.noSignalWord,
      only_shelf: wish.onlyShelf,
      bounds: bounded.value.flatMap((id) => {
        const b = bound(id)
        if (!b.min && !b.max) return []
        return [
          {
            material: id,
            ...(b.min ? { min_g: number(b.min) } : {}),
            ...(b.max ? { max_g: number(b.max) } : {}),
          },
        ]
      }),
    }
    if (wish.phLow || wish.phHigh) {
      body.ph_low = wish.phLow ? number(wish.phLow) : 0
      body.ph_high = wish.phHigh ? number(wish.phHigh) : 14
    }
    if (wish.alkalinity) body.alkalinity_g_per_l = number(wish.alkalinity)
    if (wish.chelates) body.chelates_hardness = wish.chelates
    if (wish.gas) body.gas_ml_per_kg = number(wish.gas) * 1000
    if (wish.keeps) body.keeps_days = Math.round(number(wish.keeps))
    if (wish.cost) body.cost_per_kg = wish.cost
    const { use, celsius } = props.water.query.value as { use?: string; celsius?: number }
    return ask(
      api.POST('/api/goals', {
        params: { query: { ...(use ? { use } : {}), ...(celsius ? { celsius } : {}) } },
        body,
      }),
    )
  },
})
const found = computed(() => ask4.data.value)
const wishes = computed(() =>
  ask4.error.value instanceof ProblemError ? (ask4.error.value.problem.problems ?? []) : [],
)
</script>

<template>
  <form @submit.prevent="ask4.mutate()">
    <div class="panel-form">
      <label>
        <span class="field-label">pH from</span>
        <Input v-model:value="wish.phLow" name="goal-ph-low" inputmode="decimal" />
      </label>
      <label>
        <span class="field-label">pH to</span>
        <Input v-model:value="wish.phHigh" name="goal-ph-high" inputmode="decimal" />
      </label>
      <label>
        <span class="field-label">alkalinity, at least</span>
        <Input v-model:value="wish.alkalinity" name="goal-alk" inputmode="decimal" suffix="g/l Na₂O" />
      </label>
      <label>
        <span class="field-label">holds a hardness of</span>
        <Input v-model:value="wish.chelates" name="goal-chel" placeholder="268 mg/l" />
      </label>
      <label>
        <span class="field-label">gas, at least</span>
        <Input v-model:value="wish.gas" name="goal-gas" inputmode="decimal" suffix="l a kg" />
      </label>
      <label>
        <span class="field-label">keeps, at least</span>
        <Input v-model:value="wish.keeps" name="goal-keeps" inputmode="numeric" suffix="days" />
      </label>
      <label>
        <span class="field-label">cost, at most</span>
        <Input v-model:value="wish.cost" name="goal-cost" inputmode="decimal" :suffix="`${currency} a kg`" />
      </label>
      <label>
        <span class="field-label">may also use</span>
        <Input
          v-model:value="wish.more"
          name="goal-more"
          list="material-names"
          placeholder="sodium citrate, …"
        />
      </label>
      <p class="checks wide">
        <Checkbox v-model:checked="wish.boraxFree" name="borax-free">no borax</Checkbox>
        <Checkbox v-model:checked="wish.noEyeDamage" name="no-eye-damage">no eye damage</Checkbox>
        <Checkbox v-model:checked="wish.noSignalWord" name="no-signal-word">no signal word</Checkbox>
        <Checkbox v-model:checked="wish.onlyShelf" name="only-shelf">only what is on the shelf</Checkbox>
      </p>
    </div>
    <details class="small">
      <summary>Grams between bounds</summary>
      <div v-for="id in bounded" :key="id" class="bound">
        <span>{{ nameOf(id) }}</span>
        <input
          v-model="bound(id).min"
          class="plain-field"
          inputmode="decimal"
          placeholder="from"
          :aria-label="`${nameOf(id)} from, g`"
        />
        <input
          v-model="bound(id).max"
          class="plain-field"
          inputmode="decimal"
          placeholder="to"
          :aria-label="`${nameOf(id)} to, g`"
        />
      </div>
    </details>
    <p class="small soft">Half of the soap, scent and other actives stay, unless you bound them.</p>
    <Button
      type="primary"
      html-type="submit"
      :loading="ask4.isPending.value"
      :disabled="!lines.length || !materials"
    >
      Propose a formula
    </Button>
    <div v-if="ask4.isError.value" class="bad" role="alert">
      <p v-if="wishes.length">These wishes contradict each other. Give up any one:</p>
      <p v-else>{{ sentence(ask4.error.value) }}</p>
      <ul>
        <li v-for="w in wishes" :key="w.detail">{{ w.detail }}</li>
      </ul>
    </div>
    <div v-else-if="found" class="found" role="status">
      <table class="rows">
        <tbody>
          <tr v-for="l in found.lines" :key="l.material">
            <td>{{ l.name }}</td>
            <td class="right num">{{ grams(l.grams) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="small">
        pH <strong class="num">{{ found.chemistry.ph.closed.toFixed(1) }}</strong>, alkalinity
        <strong class="num">{{ figures(found.chemistry.free_alkalinity_g_per_l_na2o) }}</strong> g/l<template
          v-if="found.cost_per_kg"
          >, <strong class="num">{{ money(found.cost_per_kg, found.currency ?? currency) }}</strong> a
          kg</template
        >.
      </p>
      <p v-if="found.binding.length" class="small watch">
        What holds it there: {{ found.binding.join('; ') }}.
      </p>
      <p v-for="c in found.costs ?? []" :key="c.wish" class="small">
        “{{ c.wish }}” costs {{ money(c.per_kg, found.currency ?? currency) }} a kg.
      </p>
      <Button v-if="canMake" @click="emit('take', found.lines)">Take it over</Button>
    </div>
  </form>
</template>

<style scoped>
.bound {
  align-items: center;
  display: grid;
  gap: 6px;
  grid-template-columns: 1.4fr 1fr 1fr;
  margin-top: 4px;
}

.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  margin: 0;
}

details {
  margin-bottom: 10px;
}

summary {
  color: var(--cobalt);
  cursor: pointer;
}

.found {
  margin-top: 12px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
