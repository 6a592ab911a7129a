<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake, isOwner } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { day, grams, moneyAtLeast, sentence } from '../../words'

const props = defineProps<{ goods: Schemas['PantryLot'] }>()
defineEmits<{ leave: [] }>()

const client = useQueryClient()
const to = ref('')
const count = ref(1)
const left = computed(() => props.goods.jar_list.filter((j) => !j.gone))

const {
  data: trace,
  isPending,
  error,
  refetch,
} = useQuery({
  queryKey: ['pantry', 'trace', props.goods.batch],
  queryFn: () => ask(api.GET('/api/batches/{id}/trace', { params: { path: { id: props.goods.batch } } })),
})
/** Who has jars of it, should it have to be called back. */
const { data: holders } = useQuery({
  queryKey: ['pantry', 'holders', props.goods.batch],
  queryFn: () => ask(api.GET('/api/batches/{id}/holders', { params: { path: { id: props.goods.batch } } })),
  enabled: canMake,
})
const print = () => window.print()
/** The bags with those that went into what is in them, each as deep as it lies. */
type Bag = Schemas['TraceBag'] & { depth: number }
const deep = (bags: Schemas['TraceBag'][], depth = 0): Bag[] =>
  bags.flatMap((b) => [{ ...b, depth }, ...deep(b.bags ?? [], depth + 1)])
const bags = computed(() => deep(trace.value?.bags ?? []))
const move = useMutation({
  mutationFn: (v: { id: string; body: Schemas['JarMove'] }) =>
    ask(api.PATCH('/api/jars/{id}', { params: { path: { id: v.id } }, body: v.body })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['pantry'] }),
})
/** Several jars in one act. */
const send = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jars/moves', {
        body: { batch: props.goods.batch, count: count.value, gone: true, gone_to: to.value },
      }),
    ),
  onSuccess: () => {
    count.value = 1
    void client.invalidateQueries({ queryKey: ['pantry'] })
  },
})
/** So many jars stay here, to be looked at while they age. */
const keep = useMutation({
  mutationFn: () => ask(api.POST('/api/samples', { body: { batch: props.goods.batch, count: count.value } })),
  onSuccess: () => {
    count.value = 1
    void client.invalidateQueries({ queryKey: ['pantry'] })
    void client.invalidateQueries({ queryKey: ['samples'] })
  },
})
</script>

<template>
  <SidePanel :title="`${goods.name} ${goods.code}`" @leave="$emit('leave')">
    <p>
      Best before <strong>{{ day(goods.best_before) }}</strong>: {{ goods.best_before_reason }}.
    </p>
    <p v-if="goods.warns" class="warns">
      {{ goods.warns }} <RouterLink to="/trials/samples">Its sample</RouterLink>
    </p>
    <nav class="out" aria-label="On its way out">
      <RouterLink :to="`/pantry/${goods.batch}/label`">Label</RouterLink>
      <RouterLink :to="`/pantry/${goods.batch}/fill`">Check a fill</RouterLink>
      <RouterLink :to="`/pantry/${goods.batch}/doses`">Doses</RouterLink>
      <RouterLink :to="`/pantry/${goods.batch}/dilute`">Dilute</RouterLink>
      <RouterLink :to="`/pantry/${goods.batch}/cards`">Use cards</RouterLink>
      <RouterLink :to="`/pantry/${goods.batch}/sheet`">To hand out</RouterLink>
    </nav>
    <p class="small more">
      <RouterLink :to="{ path: '/trials/why', query: { formula: goods.formula } }"
        >Something wrong with it?</RouterLink
      >
      <RouterLink :to="`/bench/${goods.batch}`">How it was made, with its log</RouterLink>
      <RouterLink v-if="isOwner" :to="`/ledger/batch/${goods.batch}`"
        >What it cost, against its plan</RouterLink
      >
      <a v-if="canMake" :href="`/api/batches/${goods.batch}/record`" :download="`record-${goods.code}.pdf`"
        >Its record, for an inspector</a
      >
    </p>
    <h3>Back to the bags</h3>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <table v-if="trace" class="rows bags">
      <thead>
        <tr>
          <th>material</th>
          <th>lot</th>
          <th class="right">used</th>
          <th class="right">cost</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="b in bags" :key="b.depth + b.lot">
          <td :style="{ paddingLeft: `${b.depth * 16}px` }">
            <template v-if="b.made_by">{{ b.name }}</template>
            <RouterLink v-else :to="`/shelf/${b.material}`">{{ b.name }}</RouterLink>
            <div class="soft small">{{ b.made_by ? 'made here' : b.supplier }}, {{ day(b.received) }}</div>
          </td>
          <td class="num">{{ b.code }}</td>
          <td class="right num">{{ grams(b.grams) }}</td>
          <td class="right num">{{ b.depth ? '' : moneyAtLeast(b.cost, goods.currency, b.unpriced) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td colspan="3">together</td>
          <td class="right num">
            <strong>{{ moneyAtLeast(goods.cost, goods.currency, goods.unpriced) }}</strong>
          </td>
        </tr>
      </tfoot>
    </table>
    <p v-if="goods.unpriced?.length" class="watch small">
      No price is known of {{ goods.unpriced.join(', ') }}: it cost at least that.
    </p>
    <p v-if="trace?.bags.length === 0" class="soft">Nothing was drawn from the shelf.</p>

    <template v-if="holders?.length">
      <h3>Who has jars of it</h3>
      <table class="rows">
        <thead>
          <tr>
            <th>who, and how to reach them</th>
            <th class="right">jars</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in holders" :key="h.name + h.kind">
            <td>
              {{ h.name || 'nobody said' }}
              <div class="soft small">{{ h.reach || 'no way to reach them is noted' }}</div>
            </td>
            <td class="right num">
              {{ h.jars || '' }}
              <div class="soft small">{{ h.numbers }}</div>
              <div v-if="h.grams" class="small">{{ grams(h.grams) }} by weight</div>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="small">
        <button class="plain do" type="button" @click="print">Print, to call it back</button>
      </p>
    </template>
    <h3>Jars</h3>
    <form v-if="canMake && left.length" class="send" @submit.prevent="send.mutate()">
      <label>
        <span class="field-label">So many</span>
        <InputNumber v-model:value="count" :min="1" :max="left.length" name="gone-count" />
      </label>
      <label>
        <span class="field-label">go to</span>
        <Input v-model:value="to" name="gone-to" placeholder="Saturday stall" />
      </label>
      <Button html-type="submit" :disabled="!count" :loading="send.isPending.value">They go</Button>
      <p class="small stay">
        Or they stay, to be looked at while they age:
        <button type="button" class="plain do" :disabled="keep.isPending.value" @click="keep.mutate()">
          keep {{ count > 1 ? `${count} as samples` : 'one as a sample' }}
        </button>
      </p>
    </form>
    <p v-if="move.error.value ?? send.error.value ?? keep.error.value" class="bad" role="alert">
      {{ sentence(move.error.value ?? send.error.value ?? keep.error.value) }}
    </p>
    <table class="rows jars">
      <tbody>
        <tr v-for="j in goods.jar_list" :key="j.id">
          <td class="num">{{ j.code }}</td>
          <td class="num">{{ grams(j.grams) }}</td>
          <td class="num">{{ moneyAtLeast(j.cost, goods.currency, goods.unpriced) }}</td>
          <td class="right">
            <template v-if="j.gone">
              <span class="soft small">{{ j.gone_to || 'gone' }}, {{ day(j.gone_on) }}</span>
              <template v-if="canMake && !['used here', 'kept here as a sample'].includes(j.gone_to ?? '')">
                <button
                  class="plain do small"
                  type="button"
                  @click="move.mutate({ id: j.id, body: { gone: false } })"
                >
                  came back
                </button>
                <button
                  v-if="to && to !== j.gone_to"
                  class="plain do small"
                  type="button"
                  @click="move.mutate({ id: j.id, body: { gone: true, gone_to: to } })"
                >
                  no, to {{ to }}
                </button>
              </template>
            </template>
            <Button
              v-else-if="canMake"
              size="small"
              @click="move.mutate({ id: j.id, body: { gone: true, gone_to: to } })"
            >
              It goes
            </Button>
          </td>
        </tr>
      </tbody>
    </table>
  </SidePanel>
</template>

<style scoped>
h3 {
  margin: 20px 0 4px;
}

.out {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0;
}

.out a {
  border: 1px solid var(--cobalt);
  border-radius: var(--corner);
  line-height: 1;
  padding: 9px 11px;
  text-decoration: none;
}

.send {
  align-items: end;
  display: grid;
  gap: 8px;
  grid-template-columns: 90px 1fr auto;
  margin-bottom: 10px;
}

.stay {
  grid-column: 1 / -1;
  margin: 0;
}

.warns {
  border-left: 3px solid var(--oxblood);
  padding-left: 10px;
}

.jars .num {
  white-space: nowrap;
}

.jars td:first-child {
  font-size: 14px;
}

.do {
  color: var(--cobalt);
  margin-left: 8px;
  text-decoration: underline;
}
.more {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
</style>
