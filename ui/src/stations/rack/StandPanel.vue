<script setup lang="ts">
import { computed } from 'vue'

import { isOpen, stateWords, useBatch } from '../../api/batch'
import { canMake } from '../../api/session'
import SidePanel from '../../parts/SidePanel.vue'
import StandCard from '../../parts/StandCard.vue'
import { fromNow, grams, sentence } from '../../words'

// A batch that stands, beside the rack: when it is ready, and what is done to it.
const props = defineProps<{ id: string }>()
defineEmits<{ leave: [] }>()
const of = useBatch(props.id)
const { batch, missing } = of
const step = computed(() => {
  const b = batch.value
  return b && isOpen(b) && b.step !== undefined ? b.steps?.[b.step] : undefined
})
</script>

<template>
  <SidePanel v-if="missing" title="Not here" @leave="$emit('leave')">
    <p>{{ sentence(missing) }}</p>
  </SidePanel>
  <SidePanel v-else-if="batch" :title="batch.name" @leave="$emit('leave')">
    <p class="soft">
      <RouterLink :to="`/bench/${batch.id}`" class="num">{{ batch.code }}</RouterLink>,
      {{ grams(batch.weighed_g) }}<template v-if="batch.pieces">, {{ batch.pieces }} pieces</template>
    </p>
    <template v-if="step?.stage === 'rack'">
      <h3>{{ step.name }}, for {{ fromNow(step.since).replace(' ago', '') }} now</h3>
      <StandCard :of="of" :step="step" :may="canMake" />
    </template>
    <p v-else-if="batch.state === 'packing'">
      It is done and waits to be packed. <RouterLink :to="`/bench/${batch.id}`">Pack it</RouterLink>.
    </p>
    <p v-else>
      It {{ stateWords[batch.state] }} at the bench.
      <RouterLink :to="`/bench/${batch.id}`">Go there</RouterLink>.
    </p>
  </SidePanel>
</template>

<style scoped>
h3 {
  margin: 12px 0 4px;
}
</style>
