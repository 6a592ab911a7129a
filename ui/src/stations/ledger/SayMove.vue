<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { unsentText } from '../../api/unsent'
import SaidForm from '../../parts/SaidForm.vue'
import { useHeard, worthHearing } from '../../parts/useHeard'
import { useSettled } from '../../parts/useSettled'
import { counted, grams, sentence } from '../../words'

// What became of jars, as one says it: each act is shown as it was heard, and what stands
// against it, before any jar moves.
const client = useQueryClient()
const said = unsentText('jars')
const settled = useSettled(said, 180)
const done = ref('')
const despite = ref(false)

const { data: read, error } = useQuery({
  queryKey: computed(() => ['ledger', 'said', settled.value]),
  queryFn: () => ask(api.POST('/api/acts/said', { body: { text: settled.value } })),
  enabled: worthHearing(settled),
  placeholderData: (last) => last,
  retry: false,
})
const { shown, heard, lost, still } = useHeard(said, settled, read)
const acts = computed(() => shown.value?.acts ?? [])
/** What is wanted moves nothing: it is noted for the almanac. */
const orders = computed(() => (shown.value?.orders ?? []).filter((o) => o.day))
/** Those that leave are tried: what stands against one is told before. */
const leave = computed(() => acts.value.filter((a) => a.kind !== 'returned'))
const { data: tried } = useQuery({
  queryKey: computed(() => ['ledger', 'tried', leave.value]),
  queryFn: () => Promise.all(leave.value.map((body) => ask(api.POST('/api/acts/tried', { body })))),
  enabled: computed(() => leave.value.length > 0),
  retry: false,
})
const against = computed(() =>
  leave.value.length ? [...new Set((tried.value ?? []).flatMap((t) => t.against ?? []))] : [],
)

const send = useMutation({
  async mutationFn() {
    const made: Schemas['Act'][] = []
    for (const act of acts.value)
      made.push(await ask(api.POST('/api/acts', { body: { ...act, despite: despite.value || undefined } })))
    for (const body of orders.value) await ask(api.POST('/api/orders', { body }))
    return { made, orders: orders.value.length }
  },
  onSuccess: ({ made, orders }) => {
    const notes = made.map((a) => a.number).join(', ')
    const kept = made.flatMap((a) => [
      ...(a.jars ? [counted(a.jars, 'jar')] : []),
      ...a.lines.flatMap((l) => (l.grams ? [`${grams(l.grams)} of ${l.name}`] : [])),
    ])
    if (orders) kept.push(counted(orders, 'order'))
    done.value = `Kept: ${kept.join(', ')}${notes ? `, note ${notes}` : ''}.`
    said.value = ''
    despite.value = false
  },
  onSettled() {
    void client.invalidateQueries({ queryKey: ['ledger'] })
    void client.invalidateQueries({ queryKey: ['almanac'] })
  },
})
function typed(text: string) {
  said.value = text
  done.value = ''
  send.reset()
}
const ready = computed(
  () =>
    acts.value.length + orders.value.length > 0 && still.value && (!against.value.length || despite.value),
)
const wrong = computed(() => {
  const kept =
    send.error.value instanceof ProblemError && send.error.value.problem.code === 'kept-from'
      ? undefined
      : send.error.value
  return [said.value ? error.value : undefined, kept].flatMap((e) => (e ? [sentence(e)] : []))
})
</script>

<template>
  <SaidForm
    class="move"
    :said="said"
    name="jars"
    label="What was sold, given or came back, as you would say it"
    placeholder="six Towpath at the stall, 9.50 each, two back; 500 g of Heron to the neighbour for 3.20"
    act="Keep it"
    :heard="heard"
    :lines="shown?.heard"
    :problems="shown?.problems"
    :lost="lost"
    :ready="ready"
    :busy="send.isPending.value"
    :done="done"
    :wrong="wrong"
    @typed="typed"
    @keep="send.mutate()"
  >
    <div v-if="against.length" class="against" role="alert">
      <p v-for="a in against" :key="a">■ {{ a }}</p>
      <label
        ><input v-model="despite" type="checkbox" /> They are to have it all the same; that is kept.</label
      >
    </div>
  </SaidForm>
</template>

<style scoped>
.move {
  margin-bottom: 18px;
}

.against {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  margin: 8px 0;
  padding: 8px 12px;
}

.against p {
  margin: 0 0 4px;
}
</style>
