<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'

import { api, ask } from '../../api/client'
import Looking from '../../parts/Looking.vue'
import { moment, sentence } from '../../words'
import { browserName } from './browsers'

// Where one is signed in oneself; each can be ended.
const client = useQueryClient()
const {
  data: places,
  isPending,
  error,
  refetch,
} = useQuery({ queryKey: ['sessions'], queryFn: () => ask(api.GET('/api/sessions')) })
const end = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/sessions/{id}', { params: { path: { id } } })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['sessions'] }),
})
</script>

<template>
  <h3>Where you are signed in</h3>
  <Looking :pending="isPending" :error="error" @again="refetch()" />
  <table class="rows">
    <tbody>
      <tr v-for="p in places ?? []" :key="p.id">
        <td>
          <strong>{{ browserName(p.agent) }}</strong>
          <div class="soft small">{{ p.address }}, last used {{ moment(p.last_seen_at) }}</div>
        </td>
        <td class="right">
          <span v-if="p.this" class="soft">here</span>
          <button v-else class="plain do" type="button" @click="end.mutate(p.id)">end this one</button>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="end.error.value" class="bad" role="alert">{{ sentence(end.error.value) }}</p>
</template>

<style scoped>
h3 {
  margin-top: 18px;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
