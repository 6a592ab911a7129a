<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import { unsentText } from '../../api/unsent'
import SaidForm from '../../parts/SaidForm.vue'
import { useHeard, worthHearing } from '../../parts/useHeard'
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
  enabled: worthHearing(settled),
  placeholderData: (last) => last,
  retry: false,
})
const { shown, heard, lost, still } = useHeard(said, settled, read)
const orders = computed(() => shown.value?.orders ?? [])
const ready = computed(() => orders.value.length > 0 && orders.value.every((o) => o.day) && still.value)
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
const wrong = computed(() =>
  [said.value ? error.value : undefined, note.error.value].flatMap((e) => (e ? [sentence(e)] : [])),
)
</script>

<template>
  <SaidForm
    :said="said"
    name="orders"
    label="An order, as it was said"
    placeholder="the guest house wants 40 more Heron by Friday week"
    act="Note it"
    :heard="heard"
    :lines="shown?.heard"
    :problems="shown?.problems"
    :lost="lost"
    :ready="ready"
    :busy="note.isPending.value"
    :done="done"
    :wrong="wrong"
    @typed="typed"
    @keep="note.mutate()"
  />
</template>
