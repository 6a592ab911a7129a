<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { InputNumber } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { isOpen, type Of } from '../../api/batch'
import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import { day, grams, moneyAtLeast } from '../../words'

// The end of a batch: jars are filled, all at once or in parts, or it goes onto the
// shelf as it is; and what came of it.
const props = defineProps<{ of: Of; batch: Schemas['Batch'] }>()
const jars = ref(props.batch.jars ? 0 : (props.batch.containers?.count ?? 1))
const each = ref<number>()
const likely = computed(() => props.batch.likely_g ?? 0)
/** How many pieces are in each jar; asked for where pieces are pressed or were counted. */
const inPieces = computed(
  () => !!props.batch.pieces || (props.batch.steps ?? []).some((s) => s.kind === 'press'),
)
const pieces = ref<number>()
const fairPieces = computed(() => Math.floor((props.batch.pieces ?? 0) / (jars.value || 1)))
const fair = computed(() => likely.value / (jars.value || 1))
const packed = computed(() => (props.batch.jars ?? 0) > 0)
const busy = computed(() => props.of.finish.isPending.value || props.of.pack.isPending.value)

function part() {
  props.of.pack.mutate(
    {
      jars: jars.value,
      each_g: each.value ?? Math.round(fair.value * 1000) / 1000,
      pieces: pieces.value,
      ...into.value,
    },
    { onSuccess: () => (jars.value = 1) },
  )
}
const { data: containers } = useQuery({
  queryKey: ['shelf', 'packaging', props.batch.id],
  meta: { what: 'the jars and bottles' },
  queryFn: () => ask(api.GET('/api/batches/{id}/packaging', { params: { path: { id: props.batch.id } } })),
})
const container = ref('')
const vessels = computed(() => [
  { value: '', label: 'what is at hand' },
  ...(containers.value ?? []).map((c) => ({
    value: c.id,
    label: `${c.name}, ${c.left} there${c.holds_g ? `, holds ${grams(c.holds_g)}` : ''}`,
  })),
])
const chosen = computed(() => containers.value?.find((c) => c.id === container.value))
/** What is said before anything is poured: it does not go in, or there are too few. */
const mind = computed(() => {
  const c = chosen.value
  if (!c) return ''
  const g = each.value ?? fair.value
  if (c.most_g && g > c.most_g)
    return `${c.name} is reckoned to hold about ${grams(c.holds_g ?? 0)} of this: ${c.full} full ones, and ${grams(c.over_g ?? 0)} left over. What it really holds counts.`
  if (c.left < jars.value) return `Only ${c.left} of them are on the shelf.`
  return ''
})
const into = computed(() => ({ container: container.value || undefined }))
const losses = computed(() => (props.batch.outcome?.losses ?? []).filter((l) => Math.abs(l.grams) >= 0.05))
</script>

<template>
  <div v-if="isOpen(batch)" class="end">
    <h1>{{ packed ? 'Pack the rest' : 'All is weighed' }}</h1>
    <p class="say">
      <template v-if="packed">
        {{ batch.jars }} {{ batch.jars === 1 ? 'jar' : 'jars' }} are filled, {{ grams(batch.packed_g ?? 0) }}.
        {{ likely > 0.5 ? `About ${grams(likely)} are left.` : 'Nothing should be left.' }}
      </template>
      <template v-else>
        {{ grams(batch.weighed_g) }} went in, about {{ grams(likely) }} are there. Fill the jars, and say how
        many there are.
      </template>
    </p>
    <p v-for="l in batch.labels ?? []" :key="l" class="say watch">On the label: {{ l }}</p>
    <div class="fill">
      <InputNumber
        v-model:value="jars"
        :min="packed ? 0 : 1"
        :max="10000"
        size="large"
        name="filled-jars"
        aria-label="Jars filled"
      />
      <span class="of"
        >jars of about <strong class="num">{{ grams(fair) }}</strong></span
      >
      <label class="of really">
        really
        <InputNumber
          v-model:value="each"
          :min="0"
          size="large"
          name="each-grams"
          placeholder="each"
          addon-after="g"
        />
      </label>
      <label v-if="inPieces" class="of really">
        pieces in each
        <InputNumber
          v-model:value="pieces"
          :min="0"
          :max="10000"
          :precision="0"
          size="large"
          name="each-pieces"
          :placeholder="fairPieces ? String(fairPieces) : 'counted'"
        />
      </label>
    </div>
    <Choice
      v-if="containers?.length"
      v-model="container"
      class="of into"
      label="into"
      :options="vessels"
      tall
    />
    <p v-if="mind" class="say watch">{{ mind }}</p>
    <p v-if="of.problem.value" class="bad" role="alert">{{ of.problem.value.detail }}</p>
    <template v-if="canMake">
      <button
        class="done"
        type="button"
        :disabled="(!jars && !packed) || busy"
        @click="
          of.finish.mutate({
            jars: jars,
            each_g: jars ? each : undefined,
            pieces: jars ? pieces : undefined,
            ...into,
          })
        "
      >
        Finish the batch
      </button>
      <p class="other">
        <button class="big-do" type="button" :disabled="!jars || busy" @click="part">
          Pack these, the rest later
        </button>
        <button
          v-if="!packed"
          class="big-do"
          type="button"
          :disabled="busy"
          title="Half-made: a lot to be used in other goods"
          @click="of.finish.mutate({ jars: 0, bulk: true })"
        >
          Onto the shelf, to go into others
        </button>
      </p>
    </template>
  </div>
  <div v-else-if="batch.state === 'finished'" class="end">
    <h1>Finished</h1>
    <p class="code num">{{ batch.code }}</p>
    <p class="say">
      <template v-if="batch.jars"
        >{{ batch.jars }} {{ batch.jars === 1 ? 'jar' : 'jars' }} of {{ grams(batch.each_g ?? 0) }}, for </template
      ><template v-else>On the shelf as it is, for </template>
      <strong class="num">{{ moneyAtLeast(batch.cost, batch.currency ?? 'EUR', batch.unpriced) }}</strong>
      together.
      <template v-if="batch.unpriced?.length">No price is known of {{ batch.unpriced.join(', ') }}.</template>
    </p>
    <p v-if="batch.outcome?.says" class="say">{{ batch.outcome.says }}</p>
    <p class="no-print">
      <RouterLink :to="{ path: '/trials/why', query: { formula: batch.formula, batch: batch.id } }"
        >Something went wrong?</RouterLink
      >
    </p>
    <table v-if="losses.length" class="rows losses">
      <tbody>
        <tr v-for="l in losses" :key="l.name + l.grams">
          <td>{{ l.name }}</td>
          <td class="num right">{{ grams(l.grams) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="c in batch.cost_corrected ?? []" :key="c" class="watch">
      A price was put right since, {{ c }}. The batch keeps what it cost then.
    </p>
    <p class="say">
      Best before <strong>{{ day(batch.best_before) }}</strong>: {{ batch.best_before_reason }}.
    </p>
    <RouterLink :to="`/pantry/${batch.id}`" class="done">To the pantry</RouterLink>
  </div>
  <div v-else class="end">
    <h1>Abandoned</h1>
    <p class="say">Nothing more is done to batch {{ batch.code }}.</p>
    <RouterLink to="/bench" class="done">To the bench</RouterLink>
  </div>
</template>

<style scoped>
.end h1 {
  font-size: 44px;
}

.say {
  max-width: 34em;
}

.really {
  align-items: center;
  display: flex;
  gap: 8px;
}

@media (max-width: 480px) {
  .fill {
    flex-wrap: wrap;
  }

  .really {
    flex-basis: 100%;
  }
}

.into {
  max-width: 420px;
}

.other {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 0;
  margin-top: 16px;
}

.losses {
  max-width: 420px;
}

.code {
  font-size: 40px;
  font-weight: 600;
  margin: 8px 0;
}

.fill {
  align-items: center;
  display: flex;
  gap: 14px;
  margin-bottom: 20px;
}

.of {
  font-size: 20px;
}

.done {
  align-items: center;
  background: var(--cobalt);
  border: 0;
  border-radius: var(--corner);
  color: var(--on-cobalt);
  cursor: pointer;
  display: inline-flex;
  font: 600 24px var(--slab);
  min-height: 72px;
  padding: 0 34px;
  text-decoration: none;
}
</style>
