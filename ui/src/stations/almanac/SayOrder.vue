<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import { unsentText } from '../../api/unsent'
import SaidField from '../../parts/SaidField.vue'
import { useSettled } from '../../parts/useSettled'
import { counted, sentence } from '../../words'

// An order as it was said: shown as it was heard before it is noted.
const client = useQueryClient()
const said = unsentText('orders')
const settled = useSettled(said, 180)
const done = ref('')
const { data: read, error } = useQuery({
  queryKey: computed(() => ['almanac', 'said', settled.value]),
  queryFn: () => ask(api.POST('/api/orders/said', { body: { text: settled.value } })),
  enabled: computed(() => settled.value.trim().length > 3),
  placeholderData: (last) => last,
  retry: false,
})
const shown = computed(() => (said.value.trim().length > 3 ? read.value : undefined))
const heard = computed(() => shown.value && { text: settled.value, words: shown.value.words })
const lost = computed(() =>
  (shown.value?.words ?? []).filter((w) => w.became === 'unread').map((w) => w.text),
)
const orders = computed(() => shown.value?.orders ?? [])
const ready = computed(
  () => orders.value.length > 0 && orders.value.every((o) => o.day) && settled.value === said.value,
)
const note = useMutation({
  async mutationFn() {
    for (const body of orders.value) await ask(api.POST('/api/orders', { body }))
    return orders.value.length
  },
  onSuccess(n) {
    done.value = `Noted: ${counted(n, 'order')}.`
    said.value = ''
  },
  onSettled: () => void client.invalidateQueries({ queryKey: ['almanac'] }),
})
function typed(text: string) {
  said.value = text
  done.value = ''
  note.reset()
}
</script>

<template>
  <form class="say no-print" @submit.prevent="ready && note.mutate()">
    <label class="field">
      <span class="field-label">An order, as it was said</span>
      <SaidField
        :model-value="said"
        :heard="heard"
        name="orders"
        label="An order, as it was said"
        placeholder="the guest house wants 40 more Heron by Friday week"
        @update:model-value="typed"
        @commit="ready && note.mutate()"
        @escape="typed('')"
      />
    </label>
    <ul v-if="shown" class="heard" aria-live="polite">
      <li v-for="(h, i) in shown.heard" :key="i">{{ h }}</li>
      <li v-for="(p, i) in shown.problems" :key="`p${i}`" class="watch">▲ {{ p.detail }}</li>
      <li v-if="lost.length" class="watch">▲ Not understood: {{ lost.join(', ') }}.</li>
    </ul>
    <p v-if="error && said" class="bad" role="alert">{{ sentence(error) }}</p>
    <p v-if="note.error.value" class="bad" role="alert">{{ sentence(note.error.value) }}</p>
    <div class="acts">
      <Button type="primary" html-type="submit" :disabled="!ready" :loading="note.isPending.value"
        >Note it</Button
      >
      <span class="soft" role="status">{{ done }}</span>
    </div>
  </form>
</template>

<style scoped>
.heard {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

.watch {
  color: var(--ochre-ink);
}

.acts {
  align-items: center;
  display: flex;
  gap: 12px;
  margin-top: 8px;
}
</style>
