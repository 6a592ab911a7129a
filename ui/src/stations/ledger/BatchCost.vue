<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, InputNumber } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import Looking from '../../parts/Looking.vue'
import { grams, money, sentence } from '../../words'
import CostCrock from './CostCrock.vue'
import StrataTable from './StrataTable.vue'

// What one batch cost, against its plan: told apart by price, amount, yield and time.
const props = defineProps<{ batch: string }>()
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['ledger', 'batch', props.batch],
  queryFn: () => ask(api.GET('/api/ledger/batches/{id}', { params: { path: { id: props.batch } } })),
})
const layer = ref<string>()
const minutes = ref<number>()
const tell = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/ledger/batches/{id}/hands', {
        params: { path: { id: props.batch } },
        body: { minutes: minutes.value ?? 0 },
      }),
    ),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['ledger'] }),
})
const parts = computed(() => {
  const d = data.value
  if (!d) return []
  return [
    { name: 'Price', amount: d.price, says: 'lots that cost more or less than those before' },
    { name: 'Amount', amount: d.amount, says: 'more or less went in than planned' },
    { name: 'Yield', amount: d.yield, says: 'more or less came out than was to' },
    ...(d.time ? [{ name: 'Time', amount: d.time, says: 'hands took longer or less than usual' }] : []),
  ]
})
const signed = (amount: string, currency: string) =>
  Number(amount) > 0 ? `+ ${money(amount, currency)}` : money(amount, currency)
</script>

<template>
  <section class="batch">
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <template v-if="data">
      <header>
        <RouterLink to="/ledger/goods" class="back">Goods</RouterLink>
        <h2>{{ data.name }} {{ data.code }}</h2>
        <span class="soft">{{
          data.jars
            ? `${data.jars} jars, ${money(data.cost_per_jar, data.currency)} each`
            : grams(data.made_g)
        }}</span>
        <span class="spring" />
        <a class="as-button" :href="`/api/batches/${batch}/record`" :download="`record-${data.code}.pdf`"
          >Record</a
        >
      </header>
      <div class="two">
        <CostCrock
          :strata="data.strata"
          :currency="data.currency"
          :chosen="layer"
          class="crock"
          @choose="layer = $event"
        />
        <div>
          <StrataTable
            v-model:chosen="layer"
            :strata="data.strata"
            :currency="data.currency"
            :total="data.cost"
            :at-least="data.at_least"
            of="of the batch"
          />
          <form class="hands" @submit.prevent="tell.mutate()">
            <p v-if="data.hands_min === undefined">
              Nobody counted the minutes of hands: its log has no steps to count them by. How many were it?
            </p>
            <p v-else>
              Hands: {{ Math.round(data.hands_min) }} min,
              {{ data.hands_said ? 'as somebody said' : 'counted from the log' }}.
            </p>
            <label>
              <span class="unseen">Minutes of hands</span>
              <InputNumber v-model:value="minutes" name="hands" :min="1" :max="10080" addon-after="min" />
            </label>
            <Button html-type="submit" :disabled="!minutes">{{
              data.hands_min === undefined ? 'Keep' : 'It was this'
            }}</Button>
            <p v-if="tell.error.value" class="bad" role="alert">{{ sentence(tell.error.value) }}</p>
          </form>
          <h3>Planned against real</h3>
          <table class="rows">
            <tbody>
              <tr>
                <td>Materials, planned for the {{ grams(data.made_g) }} that came out</td>
                <td class="right num">{{ money(data.planned, data.currency) }}</td>
              </tr>
              <tr v-for="p in parts.filter((p) => p.name !== 'Time')" :key="p.name">
                <td>
                  {{ p.name }} <span class="soft small">{{ p.says }}</span>
                </td>
                <td class="right num">{{ signed(p.amount, data.currency) }}</td>
              </tr>
              <tr>
                <th scope="row">Materials, paid</th>
                <td class="right num sum">{{ money(data.paid, data.currency) }}</td>
              </tr>
              <tr v-if="data.time">
                <td>Time <span class="soft small">hands took longer or less than usual</span></td>
                <td class="right num">{{ signed(data.time, data.currency) }}</td>
              </tr>
            </tbody>
          </table>
          <p class="soft small">
            {{ grams(data.expected_g) }} were to come out. Planned prices are those of the lot before the ones
            that were used.
          </p>
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.batch {
  overflow: auto;
  padding: 18px 24px 40px;
}

header {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}

.spring {
  flex: 1;
}

.two {
  display: grid;
  gap: 24px;
  grid-template-columns: minmax(220px, 340px) minmax(0, 640px);
  margin-top: 12px;
}

.crock {
  height: 460px;
}

.hands {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 12px 0;
}

.hands p {
  margin: 0;
}

.sum {
  font-weight: 600;
}

th {
  text-align: left;
}

h3 {
  margin: 16px 0 6px;
}

.as-button {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  padding: 4px 15px;
  text-decoration: none;
}

@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }

  .crock {
    height: 320px;
  }
}
</style>
