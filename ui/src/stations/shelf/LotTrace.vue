<script setup lang="ts">
import { useLotTrace } from '../../api/queries'
import { grams } from '../../words'

const props = defineProps<{ lot: string }>()
const { data: trace } = useLotTrace(() => props.lot)
</script>

<template>
  <div v-if="trace" class="trace">
    <p v-if="trace.batches.length === 0" class="soft small">Nothing was made from it yet.</p>
    <div v-for="b in trace.batches" :key="b.batch" class="small">
      <RouterLink :to="`/pantry/${b.batch}`">{{ b.name }} {{ b.code }}</RouterLink>
      took {{ grams(b.grams) }}
      <span v-if="b.state === 'abandoned'" class="bad">(abandoned)</span>
      <div v-else class="soft">
        jars
        <span v-for="(j, i) in b.jars" :key="j.id"
          >{{ i ? ', ' : '' }}{{ j.number }} {{ j.gone ? `(${j.gone_to || 'gone'})` : '(here)' }}</span
        >
      </div>
    </div>
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
