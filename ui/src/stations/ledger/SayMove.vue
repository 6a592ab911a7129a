<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { unsentText } from '../../api/unsent'
import SaidField from '../../parts/SaidField.vue'
import { useSettled } from '../../parts/useSettled'
import { counted, sentence } from '../../words'

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
  enabled: computed(() => settled.value.trim().length > 3),
  placeholderData: (last) => last,
  retry: false,
})
const shown = computed(() => (said.value.trim().length > 3 ? read.value : undefined))
const heard = computed(() => shown.value && { text: settled.value, words: shown.value.words })
const lost = computed(() =>
  (shown.value?.words ?? []).filter((w) => w.became === 'unread').map((w) => w.text),
)
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
    const kept = made.map((a) => counted(a.jars, 'jar'))
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
    acts.value.length + orders.value.length > 0 &&
    settled.value === said.value &&
    (!against.value.length || despite.value),
)
const wrong = computed(() =>
  send.error.value instanceof ProblemError && send.error.value.problem.code === 'kept-from'
    ? ''
    : send.error.value,
)
</script>

<template>
  <form class="say no-print" @submit.prevent="ready && send.mutate()">
    <label class="field">
      <span class="field-label">What was sold, given or came back, as you would say it</span>
      <SaidField
        :model-value="said"
        :heard="heard"
        name="jars"
        label="What was sold, given or came back, as you would say it"
        placeholder="six Towpath at the stall, 9.50 each, two back; the neighbour had one Lockgate, a gift"
        @update:model-value="typed"
        @commit="ready && send.mutate()"
        @escape="typed('')"
      />
    </label>
    <ul v-if="shown" class="heard" aria-live="polite">
      <li v-for="(h, i) in shown.heard" :key="i">{{ h }}</li>
      <li v-for="(p, i) in shown.problems" :key="`p${i}`" class="watch">▲ {{ p.detail }}</li>
      <li v-if="lost.length" class="watch">▲ Not understood: {{ lost.join(', ') }}.</li>
    </ul>
    <div v-if="against.length" class="against" role="alert">
      <p v-for="a in against" :key="a">■ {{ a }}</p>
      <label
        ><input v-model="despite" type="checkbox" /> They are to have it all the same; that is kept.</label
      >
    </div>
    <p v-if="error && said" class="bad" role="alert">{{ sentence(error) }}</p>
    <p v-if="wrong" class="bad" role="alert">{{ sentence(wrong) }}</p>
    <div class="acts">
      <Button type="primary" html-type="submit" :disabled="!ready" :loading="send.isPending.value"
        >Keep it</Button
      >
      <span class="soft" role="status">{{ done }}</span>
    </div>
  </form>
</template>

<style scoped>
.say {
  margin-bottom: 18px;
}

.heard {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

.watch {
  color: var(--ochre-ink);
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

.acts {
  align-items: center;
  display: flex;
  gap: 12px;
  margin-top: 8px;
}
</style>
