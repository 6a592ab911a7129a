<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake, session } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { count, grams, moneyAtLeast, sentence } from '../../words'
import MachineList from './MachineList.vue'

// How much to use: as makers say it, and beside it what the chemistry asks for.
const props = defineProps<{ good: Schemas['PantryLot'] }>()
const client = useQueryClient()
const hardness = ref('')
const soil = ref('normal')

const { data, error, isPending, refetch } = useQuery({
  queryKey: computed(() => ['pantry', 'doses', props.good.batch, hardness.value, soil.value]),
  queryFn: () =>
    ask(
      api.GET('/api/pantry/{id}/doses', {
        params: {
          path: { id: props.good.batch },
          query: { hardness: hardness.value || undefined, soil: soil.value },
        },
      }),
    ),
  placeholderData: keepPreviousData,
  retry: false,
})
/** The machines, each with its waters. */
const machines = computed(() => {
  const out: { name: string; water: number; said?: string; rows: Schemas['DoseRow'][] }[] = []
  for (const r of data.value?.rows ?? []) {
    let m = out.find((x) => x.name === r.name)
    if (!m) out.push((m = { name: r.name, water: r.water_l, rows: [] }))
    m.rows.push(r)
  }
  return out
})
const columns = computed(() => machines.value[0]?.rows ?? [])
const open = ref('')
const mg = (r: Schemas['DoseRow']) => `${Math.round(r.hardness_mg_per_l)} mg/l`

const counting = ref<{ loads?: number; grams?: number }>({})
const countLoads = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/pantry/{id}/loads', {
        params: { path: { id: props.good.batch } },
        body: { loads: counting.value.loads ?? 0, grams: counting.value.grams ?? 0 },
      }),
    ),
  onSuccess: () => {
    counting.value = {}
    void client.invalidateQueries({ queryKey: ['pantry', 'doses'] })
  },
})

/** Who says a dose; the three are kept apart. */
const voices = {
  formula: 'by your formula',
  makers: 'as makers say',
  counted: 'as counted',
  reckoned: 'reckoned from the water',
} as const
/** Where the label's dose and the reckoned one are far apart, in the workshop's own water. */
const differing = computed(() =>
  machines.value.flatMap((m) => (m.rows[0]?.differs ? [`${m.name}: ${m.rows[0].differs}`] : [])),
)
</script>

<template>
  <div class="doses">
    <form class="asks no-print" @submit.prevent>
      <label>
        <span class="field-label">Water</span>
        <Input
          v-model:value.lazy="hardness"
          name="hardness"
          :placeholder="`yours is ${session?.workshop.hardness || 'not said'}`"
        />
      </label>
      <label>
        <span class="field-label">How dirty</span>
        <Select
          v-model:value="soil"
          aria-label="How dirty"
          :options="['light', 'normal', 'heavy'].map((value) => ({ value, label: value }))"
        />
      </label>
    </form>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="data && machines.length === 0" class="empty">
      It is used as it is: no machine stands for what it is for.
    </p>
    <div v-if="machines.length" class="wide">
      <table class="rows">
        <thead>
          <tr>
            <th>in</th>
            <th>as is said</th>
            <th>on the label</th>
            <th v-for="(c, i) in columns" :key="c.hardness_mg_per_l" scope="col">
              <strong v-if="i === 0 && !hardness">your water, </strong>{{ mg(c) }}
              <div>{{ c.hardness_class }}</div>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in machines" :key="m.name">
            <th scope="row">
              {{ m.name }}
              <div class="soft small">about {{ m.water }} l</div>
            </th>
            <td>
              <span class="num">{{ m.rows[0]?.said || '–' }}</span>
              <div v-if="m.rows[0]?.said_g" class="soft small">{{ grams(m.rows[0].said_g) }}</div>
              <div v-if="m.rows[0]?.said_by" class="soft small">{{ voices[m.rows[0].said_by] }}</div>
            </td>
            <td>
              <strong class="num">{{ m.rows[0]?.chosen_as || '–' }}</strong>
              <div v-if="m.rows[0]?.chosen" class="soft small">{{ voices[m.rows[0].chosen] }}</div>
            </td>
            <td v-for="r in m.rows" :key="r.hardness_mg_per_l" :class="{ short: r.computed && !r.reaches }">
              <button type="button" class="plain dose" @click="open = open === r.says ? '' : r.says">
                <span class="num much">{{ r.measure || '–' }}</span>
                <span v-if="r.soda_first_g" class="small">after {{ grams(r.soda_first_g) }} of soda ash</span>
                <span class="soft small">
                  {{ r.grams ? grams(r.grams) : ''
                  }}<template v-if="r.uses">, {{ count(r.uses) }} loads a jar</template>
                  <template v-if="r.cost_per_use"
                    >, {{ moneyAtLeast(r.cost_per_use, good.currency, good.unpriced) }} each</template
                  >
                </span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="open" class="why" role="status">{{ open }}</p>
    <p v-for="d in differing" :key="d" class="why">{{ d }}</p>
    <p v-if="data?.refill_days" class="small">
      A compartment of 120 ml lasts about {{ count(data.refill_days) }} days at five runs a week.
    </p>
    <p class="soft small">
      The smallest measure that meets its purpose in that water: free alkali, soap that stays soap, hardness
      left. What is wanted of a wash is from memory; your cloth has the last word. Press a dose to see what it
      gives.
    </p>

    <section class="no-print">
      <h2>Counted</h2>
      <p v-if="data?.counted?.loads">
        {{ count(data.counted.loads) }} loads took {{ grams(data.counted.grams) }}:
        <strong class="num">{{ grams(data.counted.grams_per_load) }}</strong> each, about
        {{ data.counted.measure }}.
      </p>
      <p v-else class="soft">Count the loads of a jar once, and the true dose stands here.</p>
      <form v-if="canMake" class="asks" @submit.prevent="countLoads.mutate()">
        <label>
          <span class="field-label">Loads</span>
          <InputNumber v-model:value="counting.loads" :min="1" name="loads" />
        </label>
        <label>
          <span class="field-label">out of, g (empty for a jar)</span>
          <InputNumber v-model:value="counting.grams" :min="0" name="loads-grams" />
        </label>
        <Button html-type="submit" :disabled="!counting.loads" :loading="countLoads.isPending.value">
          Counted
        </Button>
      </form>
      <p v-if="countLoads.error.value" class="bad" role="alert">{{ sentence(countLoads.error.value) }}</p>
    </section>
    <MachineList v-if="canMake" class="no-print" />
  </div>
</template>

<style scoped>
.asks {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 12px;
}

.asks label {
  min-width: 150px;
}

.asks :deep(.ant-select),
.asks :deep(.ant-input-number) {
  width: 100%;
}

.wide {
  overflow-x: auto;
}

.dose {
  display: flex;
  flex-direction: column;
  min-height: 44px;
}

.much {
  font-size: 19px;
  font-weight: 600;
}

.short .much {
  color: var(--ochre-ink);
}

tbody th {
  color: inherit;
  font-size: 15px;
  vertical-align: top;
}

/* Your own water is what matters where there is no room for the others. */
@media (max-width: 900px) {
  .wide th:nth-child(n + 4),
  .wide td:nth-child(n + 4) {
    display: none;
  }
}

.why {
  border-left: 3px solid var(--cobalt);
  padding-left: 10px;
}
</style>
