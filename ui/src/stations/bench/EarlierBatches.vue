<script setup lang="ts">
import { computed, ref } from 'vue'

import { useEarlierBatches } from '../../api/queries'
import ListHead from '../../parts/ListHead.vue'
import Looking from '../../parts/Looking.vue'
import { remembered } from '../../parts/remembered'
import SortedBy from '../../parts/SortedBy.vue'
import { holds } from '../../parts/table'
import { useWhole } from '../../parts/useWhole'
import { takeAlong } from '../../takeAlong'
import { counted, day } from '../../words'

// What was made before, newest first, to its end: each can be read with its log.
const list = useEarlierBatches()
const { batches, error, hasNextPage, fetchNextPage, isFetching, refetch } = list

// What is looked for, and how it stands; remembered by this browser.
const wanted = ref('')
const view = remembered('batches', { state: '', by: 'new' })
const states = [
  { value: '', label: 'all' },
  { value: 'finished', label: 'finished' },
  { value: 'abandoned', label: 'abandoned' },
]
const orders = [
  { value: 'new', label: 'newest first' },
  { value: 'name', label: 'by name' },
]
const shown = computed(() => {
  const found = (batches.value ?? []).filter(
    (b) =>
      (!view.value.state || (b.state === 'abandoned') === (view.value.state === 'abandoned')) &&
      holds(`${b.name} ${b.code}`, wanted.value),
  )
  return view.value.by === 'name' ? found.toSorted((a, b) => a.name.localeCompare(b.name)) : found
})
const narrowed = computed(() => !!wanted.value || !!view.value.state)
const taking = useWhole(
  list,
  () => narrowed.value || view.value.by !== 'new',
  () => ({
    file: 'batches',
    head: ['good', 'code', 'begun', 'finished', 'state', 'jars', 'cost'],
    rows: shown.value.map((b) => [
      b.name,
      b.code,
      b.started.slice(0, 10),
      b.finished?.slice(0, 10),
      b.state,
      b.jars,
      b.cost,
    ]),
  }),
  takeAlong,
)
function all() {
  wanted.value = ''
  view.value.state = ''
}
</script>

<template>
  <section v-if="batches?.length || error" class="earlier">
    <h2>Before</h2>
    <Looking :error="error" @again="refetch()" />
    <ListHead
      v-if="batches?.length"
      v-model="wanted"
      what="batch"
      placeholder="name, code"
      :total="batches.length"
      :shown="shown.length"
      :more="hasNextPage"
      :finding="isFetching && (narrowed || !!taking)"
      printed
      @all="all"
      @take="taking = $event"
    >
      <SortedBy v-model="view.state" label="Which state" :options="states" />
      <SortedBy v-model="view.by" label="In which order" :options="orders" />
    </ListHead>
    <p v-if="batches?.length && !shown.length" class="soft">None of them is like that.</p>
    <table class="rows">
      <tbody>
        <tr v-for="b in shown" :key="b.id">
          <td>
            <RouterLink :to="`/bench/${b.id}`">{{ b.name }}</RouterLink>
          </td>
          <td class="num">{{ b.code }}</td>
          <td class="soft">{{ day(b.finished ?? b.started) }}</td>
          <td class="soft">
            {{ b.state === 'abandoned' ? 'abandoned' : counted(b.jars ?? 0, 'jar') }}
          </td>
        </tr>
      </tbody>
    </table>
    <button
      v-if="hasNextPage && !narrowed"
      type="button"
      class="plain do no-print"
      :disabled="isFetching"
      @click="fetchNextPage()"
    >
      more
    </button>
  </section>
</template>

<style scoped>
.earlier {
  margin-top: 34px;
  max-width: 1000px;
}

h2 {
  color: var(--ink-soft);
  font-size: 15px;
}

.do {
  color: var(--cobalt);
  padding: 8px 0;
  text-decoration: underline;
}
</style>
