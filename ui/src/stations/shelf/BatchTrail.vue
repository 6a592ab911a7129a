<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { grams } from '../../words'

// The batches that something went into, and what went on from there.
defineProps<{ batches: Schemas['TraceBatch'][] }>()
</script>

<template>
  <div v-for="b in batches" :key="b.batch" class="small">
    <RouterLink :to="`/pantry/${b.batch}`">{{ b.name }} {{ b.code }}</RouterLink>
    took {{ grams(b.grams) }}
    <span v-if="b.state === 'abandoned'" class="bad">(abandoned)</span>
    <div v-else class="soft">
      jars
      <span v-for="(j, i) in b.jars" :key="j.id"
        >{{ i ? ', ' : '' }}{{ j.number }} {{ j.gone ? `(${j.gone_to || 'gone'})` : '(here)' }}</span
      >
    </div>
    <div v-if="b.into?.length" class="on"><BatchTrail :batches="b.into" /></div>
  </div>
</template>

<style scoped>
.on {
  border-left: 2px solid var(--clay-line);
  margin: 4px 0 4px 4px;
  padding-left: 10px;
}
</style>
