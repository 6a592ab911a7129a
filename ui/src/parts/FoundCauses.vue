<script setup lang="ts">
import type { Schemas } from '../api/client'
import { day } from '../words'

// What was found to be the cause of what went wrong, each with when and of which batch; taken
// back by one press where that may be.
defineProps<{ found: Schemas['FoundCause'][]; mayChange: boolean; withGood?: boolean }>()
const emit = defineEmits<{ back: [string] }>()
const capital = (text: string) => (text[0]?.toUpperCase() ?? '') + text.slice(1)
</script>

<template>
  <ul class="found">
    <li v-for="f in found" :key="f.id">
      <span>
        {{ capital(f.name) }}: <strong>{{ f.says }}</strong>
        <span class="soft small">
          <template v-if="withGood && f.good"> · {{ f.good }}</template>
          <template v-if="f.code">
            · <RouterLink :to="`/bench/${f.batch}`">{{ f.code }}</RouterLink></template
          >
          · {{ day(f.at) }}<template v-if="f.by"> by {{ f.by }}</template
          ><template v-if="f.note"> · {{ f.note }}</template>
        </span>
      </span>
      <button v-if="mayChange" class="plain do no-print" type="button" @click="emit('back', f.id)">
        take back<span class="unseen">: {{ f.name }}, {{ f.says }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.found {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: baseline;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 4px 0;
}

li:last-child {
  border-bottom: none;
}

.do {
  color: var(--cobalt);
  flex: none;
  min-height: 32px;
  text-decoration: underline;
}
</style>
