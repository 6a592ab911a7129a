<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, reactive, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useLots, useMaterials } from '../../api/queries'
import { canMake, currency } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import PhFields from '../../parts/PhFields.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { day, fromNow, grams, money, sentence } from '../../words'
import LotCorrect from './LotCorrect.vue'
import LotCount from './LotCount.vue'
import LotTrace from './LotTrace.vue'

const props = defineProps<{ jar: Schemas['ShelfJar'] }>()
defineEmits<{ leave: [] }>()

const client = useQueryClient()
const { data: materials } = useMaterials()
const material = computed(() => materials.value?.find((m) => m.id === props.jar.material))

const like = computed(() => materials.value?.find((m) => m.id === material.value?.own?.like))

const { lots, error, isPending, refetch, hasNextPage, fetchNextPage } = useLots(() => props.jar.material)
const withLeft = computed(() => lots.value.filter((l) => l.remaining_g > 0))
const usedUp = computed(() => lots.value.filter((l) => l.remaining_g <= 0))
const prices = computed(() => lots.value.filter((l) => l.price_per_kg).slice(0, 6))
const traced = ref('')
const counting = ref('')
const correcting = ref('')

const own = reactive({ measure: '1 cup', mass_g: undefined as number | undefined })
const figures = useMutation({
  mutationFn: (body: Schemas['OwnFigures']) =>
    ask(
      api.PUT('/api/materials/{material}/figures', {
        params: { path: { material: props.jar.material } },
        body,
      }),
    ),
  onSuccess: () => {
    own.mass_g = undefined
    void client.invalidateQueries({ queryKey: ['materials'] })
    void client.invalidateQueries({ queryKey: ['shelf'] })
  },
})
const mark = useMutation({
  mutationFn: (v: { id: string; body: Schemas['LotMark'] }) =>
    ask(api.PATCH('/api/lots/{id}', { params: { path: { id: v.id } }, body: v.body })),
  onSuccess: () => {
    void client.invalidateQueries({ queryKey: ['lots'] })
    void client.invalidateQueries({ queryKey: ['shelf'] })
  },
})

const measuring = ref('') // the lot whose pH is written
const ph = ref<Schemas['MeasuredPh']>()
watch(measuring, (id) => (ph.value = withLeft.value.find((l) => l.id === id)?.measured_ph))
function keepPh(id: string) {
  mark.mutate({ id, body: ph.value ? { measured_ph: ph.value } : { forget_ph: true } })
  measuring.value = ''
}

function weigh() {
  if (own.mass_g) figures.mutate({ weighed: { measure: own.measure, mass_g: own.mass_g } })
}
</script>

<template>
  <SidePanel :title="jar.name" @leave="$emit('leave')">
    <p class="soft">
      {{ material?.label }}<template v-if="material?.formula"> · {{ material.formula }}</template>
      <template v-if="material?.also.length"><br />also called {{ material.also.join(', ') }}</template>
    </p>
    <p v-if="material?.ph" class="small">
      Its pH is usually <span class="num">{{ material.ph.low }}–{{ material.ph.high }}</span
      >, and nobody can work it out: a lot measured here counts instead.
    </p>
    <p v-if="material?.note" class="note">{{ material.note }}</p>
    <p v-if="material?.own" class="small">
      A material of your own<template v-if="like">, like {{ like.name.toLowerCase() }}</template
      >.
      <RouterLink v-if="canMake" :to="`/shelf/${material.id}?change`">Change it</RouterLink>
    </p>

    <h3>Lots</h3>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="withLeft.length === 0" class="soft">None left. Note a delivery to take one in.</p>
    <div v-for="l in withLeft" :key="l.id" class="lot">
      <div class="lot-head">
        <strong class="num">{{ l.code }}</strong>
        <span class="num amount">{{ grams(l.remaining_g) }}</span>
      </div>
      <div class="soft small">
        <template v-if="l.kept_from">kept back of {{ l.kept_from }}, {{ day(l.received) }}</template>
        <template v-else>{{ l.supplier || 'own' }}, {{ day(l.received) }}</template>
        <template v-if="l.free && !l.kept_from"> · a gift</template>
        <template v-else-if="l.price_per_kg && !l.free"
          >· {{ money(l.price_per_kg, l.currency) }} a kg</template
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
        <span v-if="l.rounds" class="mark"
          >served {{ l.rounds }} {{ l.rounds === 1 ? 'round' : 'rounds' }}</span
        >
        <span v-if="l.clumped" class="mark watch">clumped</span>
        <span v-if="l.set_aside" class="mark stop">set aside</span>
      </div>
      <div class="lot-do small">
        <button type="button" class="plain do" @click="traced = traced === l.id ? '' : l.id">
          where it went
        </button>
        <template v-if="canMake">
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
            v-if="material?.ph"
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

    <details v-if="usedUp.length" class="used-up">
      <summary>Used up: {{ usedUp.length }}</summary>
      <div v-for="l in usedUp" :key="l.id" class="lot">
        <strong class="num">{{ l.code }}</strong>
        <span class="soft small"> {{ l.supplier || 'own' }}, {{ day(l.received) }} </span>
        <button type="button" class="plain do small" @click="traced = traced === l.id ? '' : l.id">
          where it went
        </button>
        <LotTrace v-if="traced === l.id" :lot="l.id" />
      </div>
    </details>
    <button v-if="hasNextPage" class="plain do" type="button" @click="fetchNextPage()">older lots</button>

    <template v-if="prices.length > 1">
      <h3>Price over time</h3>
      <table class="rows">
        <tbody>
          <tr v-for="l in prices" :key="l.id">
            <td>{{ day(l.received) }}</td>
            <td class="soft">{{ l.supplier }}</td>
            <td class="right num">{{ money(l.price_per_kg, l.currency) }} a kg</td>
          </tr>
        </tbody>
      </table>
    </template>

    <h3>Weigh a cup</h3>
    <p v-if="material?.density" class="small">
      A millilitre weighs
      <span class="num">{{ material.density.value.toFixed(2) }} g</span>
      <template v-if="material.density.high > material.density.low">
        ({{ material.density.low.toFixed(2) }}–{{ material.density.high.toFixed(2) }})</template
      >, {{ material.density.source }}.
      <button
        v-if="material.density.own && canMake"
        type="button"
        class="plain do"
        @click="figures.mutate({ forget_density: true })"
      >
        Back to the library’s figure
      </button>
    </p>
    <form v-if="canMake" class="weigh" @submit.prevent="weigh">
      <Input v-model:value="own.measure" name="own-measure" aria-label="Measure" />
      <span>weighs</span>
      <InputNumber v-model:value="own.mass_g" name="own-mass" :min="0.1" addon-after="g" aria-label="Grams" />
      <Button html-type="submit" :disabled="!own.mass_g">Keep</Button>
    </form>
    <p v-if="figures.isError.value" class="bad small">{{ sentence(figures.error.value) }}</p>

    <template v-if="canMake">
      <h3>Reorder at</h3>
      <InputNumber
        :value="jar.reorder_g"
        :min="0"
        :step="500"
        addon-after="g"
        aria-label="Reorder at, in grams"
        @change="(v) => figures.mutate({ reorder_g: Number(v ?? 0) })"
      />
      <p class="soft small">Half a jar on the shelf is this much. Prices are in {{ currency }}.</p>
    </template>
  </SidePanel>
</template>

<style scoped>
.ph {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  margin-top: 6px;
}

h3 {
  margin: 22px 0 6px;
}

.note {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
}

.lot {
  border-top: 1px solid var(--clay-line);
  padding: 8px 0;
}

.lot-head {
  display: flex;
  justify-content: space-between;
}

.amount {
  font-size: 18px;
  font-weight: 600;
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
  white-space: nowrap;
  padding: 4px 0;
  text-decoration: underline;
}

.weigh {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 90px auto 1fr auto;
}
</style>
