<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, ask } from '../../api/client'
import { useLotTrace } from '../../api/queries'
import Looking from '../../parts/Looking.vue'
import { day, grams } from '../../words'
import BatchTrail from './BatchTrail.vue'

const props = defineProps<{ lot: string }>()
const { data: trace, isPending, error, refetch } = useLotTrace(() => props.lot)
const { data: detail } = useQuery({
  queryKey: ['lots', 'one', props.lot],
  queryFn: () => ask(api.GET('/api/lots/{id}', { params: { path: { id: props.lot } } })),
})
/** What was fed to vats, newest first: how much, less what was taken back. */
const fed = computed(() => {
  const of = new Map<string, number>()
  for (const m of detail.value?.movements ?? [])
    if (m.kind === 'fed') of.set(m.vat ?? '', (of.get(m.vat ?? '') ?? 0) - m.grams)
  return [...of].filter(([, g]) => g > 0)
})
/** What was counted or put right, newest first. */
const corrected = computed(() =>
  (detail.value?.movements ?? []).filter((m) => m.kind === 'corrected').reverse(),
)
</script>

<template>
  <Looking :pending="isPending" :error="error" @again="refetch()" />
  <div v-if="trace" class="trace">
    <p v-for="[vat, g] in fed" :key="vat" class="small">
      <span class="soft">fed to</span> {{ vat }}, {{ grams(g) }}
    </p>
    <p v-if="trace.batches.length === 0 && !fed.length" class="soft small">Nothing was made from it yet.</p>
    <div v-for="(m, i) in corrected" :key="i" class="small">
      <span class="soft">{{ day(m.at) }}, {{ m.by }}:</span>
      <template v-if="m.grams">{{ m.grams > 0 ? '+' : '' }}{{ grams(m.grams) }}, </template>{{ m.reason }}
    </div>
    <BatchTrail :batches="trace.batches" />
  </div>
</template>

<style scoped>
.trace {
  background: var(--slip);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  margin-top: 6px;
  max-height: 260px;
  overflow: auto;
  padding: 8px 10px;
}
</style>
