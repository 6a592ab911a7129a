<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Checkbox } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useLots } from '../../api/queries'
import { canMake } from '../../api/session'
import ListHead from '../../parts/ListHead.vue'
import Looking from '../../parts/Looking.vue'
import PhFields from '../../parts/PhFields.vue'
import { remembered } from '../../parts/remembered'
import SortedBy from '../../parts/SortedBy.vue'
import { holds } from '../../parts/table'
import { useWhole } from '../../parts/useWhole'
import { takeAlong } from '../../takeAlong'
import { counted, day, fromNow, grams, money, sentence } from '../../words'
import LotCorrect from './LotCorrect.vue'
import LotCount from './LotCount.vue'
import LotTrace from './LotTrace.vue'

const props = defineProps<{ material: string; measuresPh: boolean }>()

const client = useQueryClient()
const list = useLots(() => props.material)
const { lots, error, isPending, isFetching, refetch, hasNextPage } = list

// What is looked for, and how it stands; remembered by this browser.
const wanted = ref('')
const view = remembered('lots', { state: 'left', by: 'new' })
const states = [
  { value: 'left', label: 'with some left' },
  { value: 'past', label: 'past the date' },
  { value: 'aside', label: 'set aside' },
  { value: 'up', label: 'used up' },
  { value: 'all', label: 'all' },
]
const orders = [
  { value: 'new', label: 'newest first' },
  { value: 'date', label: 'first date first' },
  { value: 'most', label: 'most left first' },
]
/** From how many lots on they are searched and sifted: fewer are seen at a glance. */
const sifted = computed(() => lots.value.length > 6 || hasNextPage.value)
const upToo = ref(false) // of few, those that are used up stand below when asked for
const state = computed(() => {
  if (sifted.value) return view.value.state
  return upToo.value ? 'all' : 'left'
})
const isIn = (l: Schemas['Lot']) => {
  const left = l.remaining_g > 0
  switch (state.value) {
    case 'past':
      return left && !!l.past
    case 'aside':
      return left && l.set_aside
    case 'up':
      return !left
    default:
      return left || state.value === 'all'
  }
}
const found = computed(() => {
  const those = lots.value.filter(
    (l) => isIn(l) && holds(`${l.code} ${l.supplier ?? ''} ${l.note ?? ''}`, wanted.value),
  )
  if (view.value.by === 'date')
    return those.toSorted((a, b) => (a.best_before ?? '9999').localeCompare(b.best_before ?? '9999'))
  return view.value.by === 'most' ? those.toSorted((a, b) => b.remaining_g - a.remaining_g) : those
})
const usedUp = computed(() => lots.value.filter((l) => l.remaining_g <= 0).length)
const atOnce = 20
const most = ref(atOnce)
watch([wanted, view], () => (most.value = atOnce), { deep: true })
const shown = computed(() => found.value.slice(0, most.value))

// many are counted, searched and put in order as a whole
const taking = useWhole(
  list,
  () => sifted.value,
  () => ({
    file: `lots-${props.material}`,
    head: 'lot,supplier,received,best before,grams taken in,grams left,price a kg,currency,mark'.split(','),
    rows: found.value.map((l) => [
      l.code,
      l.supplier,
      l.received,
      l.best_before,
      l.original_g,
      l.remaining_g,
      l.price_per_kg,
      l.currency,
      l.set_aside ? 'set aside' : l.clumped ? 'clumped' : '',
    ]),
  }),
  takeAlong,
)
function all() {
  wanted.value = ''
  view.value.state = 'all'
}

const traced = ref('')
const counting = ref('')
const correcting = ref('')
const measuring = ref('') // the lot whose pH is written
const ph = ref<Schemas['MeasuredPh']>()
watch(measuring, (id) => (ph.value = lots.value.find((l) => l.id === id)?.measured_ph))

const again = () => {
  void client.invalidateQueries({ queryKey: ['lots'] })
  void client.invalidateQueries({ queryKey: ['shelf'] })
}
const mark = useMutation({
  mutationFn: (v: { id: string; body: Schemas['LotMark'] }) =>
    ask(api.PATCH('/api/lots/{id}', { params: { path: { id: v.id } }, body: v.body })),
  onSuccess: again,
})
function keepPh(id: string) {
  mark.mutate({ id, body: ph.value ? { measured_ph: ph.value } : { forget_ph: true } })
  measuring.value = ''
}

// Many for one act.
const choosing = ref(false)
const chosen = ref<string[]>([])
const choose = (id: string, on: boolean) =>
  (chosen.value = on ? [...chosen.value, id] : chosen.value.filter((c) => c !== id))
const markAll = useMutation({
  mutationFn: async (v: { ids: string[]; body: Schemas['LotMark'] }) => {
    for (const id of v.ids) await ask(api.PATCH('/api/lots/{id}', { params: { path: { id } }, body: v.body }))
  },
  onSettled: again,
  onSuccess: () => {
    choosing.value = false
    chosen.value = []
  },
})
</script>

<template>
  <section class="lots">
    <h3>Lots</h3>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <ListHead
      v-if="sifted"
      v-model="wanted"
      what="lot"
      placeholder="code, supplier"
      :total="lots.length"
      :shown="found.length"
      :finding="isFetching && !isPending"
      @all="all"
      @take="taking = $event"
    >
      <SortedBy v-model="view.state" label="Which lots" :options="states" />
      <SortedBy v-model="view.by" label="In which order" :options="orders" />
      <template #acts>
        <Button v-if="canMake && !choosing" @click="choosing = true">Choose several</Button>
      </template>
    </ListHead>
    <div v-if="choosing" class="many" role="group" aria-label="What is done with those chosen">
      <strong>{{ counted(chosen.length, 'lot') }} chosen</strong>
      <Button @click="chosen = found.map((l) => l.id)">All {{ found.length }} shown</Button>
      <Button
        :disabled="!chosen.length"
        :loading="markAll.isPending.value"
        @click="markAll.mutate({ ids: chosen, body: { set_aside: true } })"
        >Set aside</Button
      >
      <Button
        :disabled="!chosen.length"
        :loading="markAll.isPending.value"
        @click="markAll.mutate({ ids: chosen, body: { set_aside: false } })"
        >Use again</Button
      >
      <Button @click="((choosing = false), (chosen = []))">Done</Button>
    </div>
    <p v-if="markAll.error.value" class="bad small" role="alert">{{ sentence(markAll.error.value) }}</p>
    <p v-if="!isPending && !error && found.length === 0" class="soft">
      {{ sifted ? 'None of them is like that.' : 'None left. Note a delivery to take one in.' }}
    </p>
    <div v-for="l in shown" :key="l.id" class="lot">
      <div class="lot-head">
        <Checkbox
          v-if="choosing"
          :checked="chosen.includes(l.id)"
          :aria-label="`Choose ${l.code}`"
          @change="(e) => choose(l.id, e.target.checked)"
        />
        <strong class="num">{{ l.code }}</strong>
        <span class="num amount">{{ l.remaining_g > 0 ? grams(l.remaining_g) : 'used up' }}</span>
      </div>
      <div class="soft small">
        <template v-if="l.kept_from">kept back of {{ l.kept_from }}, {{ day(l.received) }}</template>
        <template v-else>{{ l.supplier || 'own' }}, {{ day(l.received) }}</template>
        <template v-if="l.free && !l.kept_from"> · a gift</template>
        <template v-else-if="l.price_per_kg && !l.free">
          · {{ money(l.price_per_kg, l.currency) }} a kg</template
        >
        <template v-if="l.opened"> · opened {{ fromNow(l.opened) }}</template>
      </div>
      <div class="small">
        <span v-if="l.best_before" :class="{ bad: l.past }" :title="fromNow(l.best_before)">
          {{ l.past ? 'was good until' : 'best before' }} {{ day(l.best_before) }}
        </span>
        <span v-if="l.measured_ph">
          · pH <span class="num">{{ l.measured_ph.ph }}</span> by a {{ l.measured_ph.with }}
        </span>
        <span v-if="l.rounds" class="mark">served {{ counted(l.rounds, 'round') }}</span>
        <span v-if="l.clumped" class="mark watch">clumped</span>
        <span v-if="l.set_aside" class="mark stop">set aside</span>
      </div>
      <div class="lot-do small">
        <button type="button" class="plain do" @click="traced = traced === l.id ? '' : l.id">
          where it went
        </button>
        <template v-if="canMake && l.remaining_g > 0">
          <button
            type="button"
            class="plain do"
            @click="mark.mutate({ id: l.id, body: { clumped: !l.clumped } })"
          >
            {{ l.clumped ? 'no longer clumped' : 'it clumped' }}
          </button>
          <button
            type="button"
            class="plain do"
            @click="mark.mutate({ id: l.id, body: { set_aside: !l.set_aside } })"
          >
            {{ l.set_aside ? 'use it again' : 'set it aside' }}
          </button>
          <button type="button" class="plain do" @click="counting = counting === l.id ? '' : l.id">
            count it
          </button>
          <button type="button" class="plain do" @click="correcting = correcting === l.id ? '' : l.id">
            correct it
          </button>
          <button
            v-if="measuresPh"
            type="button"
            class="plain do"
            @click="measuring = measuring === l.id ? '' : l.id"
          >
            measure its pH
          </button>
        </template>
      </div>
      <LotCount
        v-if="counting === l.id"
        :on-paper-g="l.remaining_g"
        @count="(g, reason) => (mark.mutate({ id: l.id, body: { counted_g: g, reason } }), (counting = ''))"
      />
      <LotCorrect
        v-if="correcting === l.id"
        :lot="l"
        @correct="
          (correct, reason) => (mark.mutate({ id: l.id, body: { correct, reason } }), (correcting = ''))
        "
      />
      <form v-if="measuring === l.id" class="ph small" @submit.prevent="keepPh(l.id)">
        <PhFields v-model="ph" what="pH" name="lot-ph" />
        <Button html-type="submit" size="small" :disabled="!ph && !l.measured_ph">
          {{ ph || !l.measured_ph ? 'Keep' : 'Take it away' }}
        </Button>
      </form>
      <p v-if="mark.isError.value && mark.variables.value?.id === l.id" class="bad small" role="alert">
        {{ sentence(mark.error.value) }}
      </p>
      <LotTrace v-if="traced === l.id" :lot="l.id" />
    </div>
    <button v-if="found.length > most" class="plain do" type="button" @click="most += 100">
      more of them: {{ found.length - most }}
    </button>
    <p v-if="!sifted && usedUp" class="small">
      <button class="plain do" type="button" :aria-expanded="upToo" @click="upToo = !upToo">
        Used up: {{ usedUp }}
      </button>
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin: 22px 0 6px;
}

.many,
.ph {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  margin: 6px 0;
}

.many {
  background: var(--cobalt-wash);
  padding: 8px 12px;
}

.lot {
  border-top: 1px solid var(--clay-line);
  padding: 8px 0;
}

.lot-head {
  display: flex;
  gap: 10px;
}

.amount {
  font-size: 18px;
  font-weight: 600;
  margin-left: auto;
}

.mark {
  margin-left: 8px;
}

.lot-do {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  padding-top: 2px;
}

.do {
  color: var(--cobalt);
  padding: 4px 0;
  text-decoration: underline;
  white-space: nowrap;
}
</style>
