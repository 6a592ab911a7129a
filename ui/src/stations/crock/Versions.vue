<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import dayjs from 'dayjs'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'

// The versions of a formula, newest first. An older one is looked at as a change
// to the newest: nothing is lost, and keeping it makes it current again.
const props = defineProps<{ id: string; shown: number }>()
const emit = defineEmits<{ look: [Schemas['FormulaFile']] }>()

const { data: versions, error } = useQuery({
  queryKey: ['formulas', props.id, 'versions'],
  queryFn: () => ask(api.GET('/api/formulas/{id}/versions', { params: { path: { id: props.id } } })),
})
const look = useMutation({
  mutationFn: (version: number) =>
    ask(api.GET('/api/formulas/{id}', { params: { path: { id: props.id }, query: { version } } })),
  onSuccess: (s) => emit('look', s.file),
})
</script>

<template>
  <div class="versions small">
    <p v-if="error || look.error.value" class="bad" role="alert">
      {{ sentence(error ?? look.error.value) }}
    </p>
    <ol>
      <li v-for="v in versions" :key="v.version">
        <strong class="num">{{ v.version }}</strong>
        <span>{{ v.name }}</span>
        <span class="soft">{{ v.by }}, {{ dayjs(v.kept).format('D MMM YYYY HH:mm') }}</span>
        <span v-if="v.version === shown" class="soft">is the newest</span>
        <button v-else type="button" class="plain do" @click="look.mutate(v.version)">look at it</button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}

li {
  align-items: baseline;
  border-top: 1px solid var(--clay-line);
  display: grid;
  gap: 10px;
  grid-template-columns: 24px 1fr 1.4fr 96px;
  padding: 4px 0;
}

.do {
  color: var(--cobalt);
  text-align: left;
  text-decoration: underline;
}
</style>
