<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { remembered } from '../../parts/remembered'
import { useSettled } from '../../parts/useSettled'
import { count, day, grams, moneyAtLeast, sentence, times } from '../../words'
import type { FormulaStep } from './steps'
import type { FormulaFile } from './useDraft'

const props = defineProps<{
  id: string
  version: number
  dirty: boolean
  name: string
  file: FormulaFile
}>()
const emit = defineEmits<{ keep: []; steps: [steps: FormulaStep[]] }>()
const router = useRouter()
const client = useQueryClient()

type Way = 'jars' | 'amount' | 'uses' | 'pieces' | 'times' | 'shelf'
const ways: { way: Way; name: string }[] = [
  { way: 'jars', name: 'jars' },
  { way: 'amount', name: 'an amount' },
  { way: 'uses', name: 'uses' },
  { way: 'pieces', name: 'pieces' },
  { way: 'times', name: 'times' },
  { way: 'shelf', name: 'all the shelf allows' },
]
const wish = reactive({
  way: 'times' as Way,
  jars: 12,
  each: '700 g',
  fill: 100,
  amount: '5 kg',
  uses: 80,
  pieces: 24,
  times: 1,
})

const target = computed<Schemas['Target']>(() => {
  switch (wish.way) {
    case 'jars':
      return { containers: { count: wish.jars, each: wish.each, fill: wish.fill / 100 } }
    case 'amount':
      return { amount: wish.amount }
    case 'uses':
      return { uses: wish.uses }
    case 'pieces':
      return { pieces: wish.pieces }
    case 'times':
      return { factor: wish.times }
    default:
      return { scarcest: true }
  }
})
const settled = useSettled(target, 150)

// It opens on what is written where the shelf allows that, else on all that it allows.
const { data: asWritten, isFetched: opened } = useQuery({
  queryKey: computed(() => ['plan', props.id, props.version, { factor: 1 }]),
  meta: { what: 'the plan' },
  queryFn: ({ signal }) =>
    ask(
      api.POST('/api/formulas/{id}/plan', {
        params: { path: { id: props.id } },
        body: { factor: 1, version: props.version },
        signal,
      }),
    ),
  enabled: computed(() => props.id !== '' && props.version > 0),
  retry: false,
})
const chosen = ref(false) // a way of sizing was chosen by hand
watch(
  asWritten,
  (p) => {
    if (!p || chosen.value) return
    const some = p.lines.every((l) => !l.missing_g || l.draws.length > 0)
    wish.way = p.short && some ? 'shelf' : 'times'
  },
  { immediate: true },
)
const {
  data: plan,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => ['plan', props.id, props.version, settled.value]),
  queryFn: ({ signal }) =>
    ask(
      api.POST('/api/formulas/{id}/plan', {
        params: { path: { id: props.id } },
        body: { ...settled.value, version: props.version },
        signal,
      }),
    ),
  enabled: computed(() => props.id !== '' && props.version > 0 && (opened.value || chosen.value)),
  placeholderData: keepPreviousData,
  retry: false,
})

/** What the shelf is short of, and how much. */
const shortOf = computed(() => (plan.value?.lines ?? []).filter((l) => l.missing_g))

const limiting = computed(() => plan.value?.lines.find((l) => l.material === plan.value?.limited_by)?.name)

/** What is short, as a delivery is noted. */
const shortNote = computed(() =>
  shortOf.value.map((l) => `${Math.ceil(l.missing_g ?? 0)} g ${l.name.toLowerCase()}`).join('; '),
)

const want = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/wanted', {
        body: {
          for: props.name,
          lines: shortOf.value.map((l) => ({ material: l.material, grams: l.missing_g ?? 0 })),
        },
      }),
    ),
  onSuccess: () => client.invalidateQueries({ queryKey: ['shelf', 'wanted'] }),
})
watch(shortOf, (now, before) => {
  if (now.length !== before.length) want.reset()
})

const start = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/batches', {
        body: { formula: props.id, target: { ...target.value, version: props.version } },
      }),
    ),
  onSuccess: (b) => {
    void client.invalidateQueries({ queryKey: ['batches'] })
    void router.push(`/bench/${b.id}`)
  },
})
// What has no steps is asked about once, before it goes to the bench.
const askedOf = remembered<string[]>('asked-of-steps', [])
const asking = ref(false)
const noSteps = computed(() => !props.file.steps?.length)
function begin() {
  if (noSteps.value && !askedOf.value.includes(props.id)) asking.value = true
  else start.mutate()
}
function beginWithout() {
  askedOf.value = [...askedOf.value, props.id].slice(-500)
  asking.value = false
  start.mutate()
}
const usual = useMutation({
  mutationFn: () => ask(api.POST('/api/steps', { body: { ...props.file, name: props.file.name || 'new' } })),
  onSuccess: (ways) => {
    asking.value = false
    if (ways[0]) emit('steps', ways[0].steps)
  },
})
</script>

<template>
  <div class="make">
    <p v-if="dirty || !id" class="first">
      This formula has changes that are not kept. A batch is made from a kept version.
      <Button v-if="canMake" size="small" type="primary" @click="$emit('keep')">Keep it</Button>
    </p>
    <fieldset>
      <legend class="field-label">How much</legend>
      <label v-for="w in ways" :key="w.way" class="way" :class="{ on: wish.way === w.way }">
        <input v-model="wish.way" type="radio" name="way" :value="w.way" @change="chosen = true" />
        {{ w.name }}
      </label>
    </fieldset>
    <div class="size">
      <template v-if="wish.way === 'jars'">
        <InputNumber v-model:value="wish.jars" name="jars" :min="1" :max="10000" aria-label="Jars" />
        <span>jars of</span>
        <Input v-model:value="wish.each" name="each" aria-label="What one holds" class="each" />
        <template v-if="/l$/i.test(wish.each.trim())">
          <span>filled to</span>
          <InputNumber v-model:value="wish.fill" :min="1" :max="100" addon-after="%" aria-label="Filled to" />
        </template>
      </template>
      <Input v-else-if="wish.way === 'amount'" v-model:value="wish.amount" aria-label="Amount" class="each" />
      <InputNumber v-else-if="wish.way === 'uses'" v-model:value="wish.uses" :min="1" aria-label="Uses" />
      <InputNumber
        v-else-if="wish.way === 'pieces'"
        v-model:value="wish.pieces"
        :min="1"
        aria-label="Pieces"
      />
      <InputNumber
        v-else-if="wish.way === 'times'"
        v-model:value="wish.times"
        :min="0.01"
        :step="0.5"
        aria-label="Times"
      />
    </div>
    <Looking v-if="error" :error="error" @again="refetch()" />
    <template v-else-if="plan && id">
      <div class="sum">
        <div>
          <span class="num big">{{ grams(plan.total_g) }}</span>
          <span class="soft small">to weigh, {{ times(plan.factor) }} the formula</span>
        </div>
        <div>
          <span class="num big">{{ moneyAtLeast(plan.cost, plan.currency ?? 'EUR', plan.unpriced) }}</span>
          <span class="soft small"
            >from these lots<template v-if="plan.unpriced?.length"
              >, without {{ plan.unpriced.join(', ') }}</template
            ><template v-if="plan.uses">, {{ count(plan.uses) }} uses</template></span
          >
        </div>
      </div>
      <p v-if="limiting" class="small">
        <strong>{{ limiting }}</strong> sets the size: no more is on the shelf.
      </p>
      <p v-if="plan.best_before" class="small">
        Best before <strong>{{ day(plan.best_before) }}</strong>: {{ plan.best_before_reason }}.
      </p>
      <p v-for="s in plan.said" :key="s" class="watch small">{{ s }}</p>
      <table class="rows">
        <tbody>
          <tr v-for="l in plan.lines" :key="l.line">
            <td>
              {{ l.name }}
              <div v-for="d in l.draws" :key="d.lot" class="soft small">
                lot <span class="num">{{ d.code }}</span>: {{ grams(d.grams) }}
              </div>
              <div v-if="l.missing_g" class="bad small">
                {{ grams(l.missing_g) }} short<template v-if="l.past_g"
                  >; {{ grams(l.past_g) }} is there, past its date</template
                >
              </div>
              <div v-if="l.unstocked" class="soft small">from the tap</div>
            </td>
            <td class="right">
              <span class="num g">{{ l.hand || l.open || grams(l.mass_g) }}</span>
              <div v-if="l.hand" class="soft small">≈ {{ grams(l.mass_g) }}, too little for the scale</div>
              <div v-else-if="l.open" class="soft small">weighed at the bench</div>
              <div v-else-if="l.scoop" class="soft small">≈ {{ l.scoop.amount }}</div>
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="plan.short" class="short" role="status">
        <p>
          The shelf is short of
          <template v-for="(l, i) in shortOf" :key="l.line"
            ><template v-if="i">{{ i === shortOf.length - 1 ? ' and ' : ', ' }}</template
            ><strong>{{ l.name.toLowerCase() }}</strong> ({{ grams(l.missing_g ?? 0) }})</template
          >.
        </p>
        <RouterLink v-if="canMake" class="do" :to="{ path: '/shelf', query: { delivery: shortNote } }"
          >Note a delivery</RouterLink
        >
        <button
          v-if="canMake && !want.isSuccess.value"
          type="button"
          class="plain do"
          :disabled="want.isPending.value"
          @click="want.mutate()"
        >
          Put it on the list
        </button>
        <RouterLink v-else-if="want.isSuccess.value" class="do" to="/shelf/list"
          >It is on the list</RouterLink
        >
        <button
          v-if="canMake && wish.way !== 'shelf'"
          type="button"
          class="plain do"
          @click="wish.way = 'shelf'"
        >
          Make what the shelf allows
        </button>
      </div>
      <Button
        v-if="canMake"
        type="primary"
        size="large"
        block
        :disabled="dirty || plan.short"
        :loading="start.isPending.value"
        @click="begin()"
      >
        To the bench
      </Button>
      <div v-if="asking" class="no-steps" role="alert">
        <p>No steps are said: it would be weighed out and filled, and nothing between.</p>
        <Button :loading="usual.isPending.value" @click="usual.mutate()">Take the usual way</Button>
        <Button @click="beginWithout()">Begin without</Button>
        <p v-if="usual.error.value" class="bad">{{ sentence(usual.error.value) }}</p>
      </div>
      <p v-if="start.isError.value" class="bad" role="alert">{{ sentence(start.error.value) }}</p>
    </template>
  </div>
</template>

<style scoped>
.no-steps {
  background: var(--ochre-wash);
  border-left: 3px solid var(--ochre);
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 10px;
  padding: 10px 12px;
}

.no-steps p {
  flex-basis: 100%;
  margin: 0;
}

fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 0 0 8px;
  padding: 0;
}

.way {
  cursor: pointer;
  padding: 3px 0;
}

.way.on {
  color: var(--cobalt);
  font-weight: 600;
}

.way input {
  accent-color: var(--cobalt);
}

.size {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  min-height: 36px;
}

.size > * {
  width: auto;
}

.each {
  width: 100px;
}

.first {
  background: var(--ochre-wash);
  border-left: 4px solid var(--ochre);
  padding: 8px 12px;
}

.short {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin-bottom: 12px;
  padding: 8px 12px;
}

.short p {
  flex-basis: 100%;
  margin: 0;
}

.short .do {
  color: var(--cobalt);
  min-height: 32px;
  padding: 5px 0;
  text-decoration: underline;
}

.sum {
  display: grid;
  grid-template-columns: 1fr 1fr;
  margin: 14px 0 8px;
}

.sum div {
  display: flex;
  flex-direction: column;
}

.big {
  font-size: 28px;
  font-weight: 600;
  line-height: 1.1;
}

.g {
  font-size: 17px;
}

.watch {
  color: var(--ochre-ink);
}

.rows {
  margin-bottom: 14px;
}
</style>
