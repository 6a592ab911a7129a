<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { isOpen } from '../../api/batch'
import { api, ask } from '../../api/client'
import { day, sentence } from '../../words'

// What was made before, newest first, to its end: each can be read with its log.
const { data, error, hasNextPage, fetchNextPage, isFetching } = useInfiniteQuery({
  queryKey: ['batches', 'earlier'],
  queryFn: ({ pageParam }) =>
    ask(api.GET('/api/batches', { params: { query: { limit: 20, after: pageParam || undefined } } })),
  initialPageParam: '',
  getNextPageParam: (page) => page.next,
})
const earlier = computed(() => (data.value?.pages ?? []).flatMap((p) => p.batches).filter((b) => !isOpen(b)))
</script>

<template>
  <section v-if="earlier.length || error" class="earlier">
    <h2>Before</h2>
    <p v-if="error" class="bad" role="alert">{{ sentence(error) }}</p>
    <table class="rows">
      <tbody>
        <tr v-for="b in earlier" :key="b.id">
          <td>
            <RouterLink :to="`/bench/${b.id}`">{{ b.name }}</RouterLink>
          </td>
          <td class="num">{{ b.code }}</td>
          <td class="soft">{{ day(b.finished ?? b.started) }}</td>
          <td class="soft">
            {{ b.state === 'abandoned' ? 'abandoned' : `${b.jars} ${b.jars === 1 ? 'jar' : 'jars'}` }}
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="hasNextPage" type="button" class="plain do" :disabled="isFetching" @click="fetchNextPage()">
      more
    </button>
  </section>
</template>

<style scoped>
.earlier {
  margin-top: 34px;
  max-width: 700px;
}

h2 {
  color: var(--ink-soft);
  font-size: 15px;
}

.do {
  color: var(--cobalt);
  padding: 8px 0;
  text-decoration: underline;
}
</style>
