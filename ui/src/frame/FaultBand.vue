<script setup lang="ts">
import { useQueryClient, type Query } from '@tanstack/vue-query'
import { onBeforeUnmount, shallowRef } from 'vue'

import { away } from '../api/client'

// What a view needs beside what it shows, kinds and materials and such, and cannot have: told
// here within two seconds, each by name, with another try. What a view shows itself says so in
// its own place.
const cache = useQueryClient().getQueryCache()
const late = 2000 // ms
const since = new Map<string, number>()
const faults = shallowRef<{ query: Query; what: string; failed: boolean }[]>([])
let timer: ReturnType<typeof setTimeout> | undefined

function look() {
  clearTimeout(timer)
  const now = Date.now()
  let soonest = Infinity
  const found: typeof faults.value = []
  for (const query of cache.getAll()) {
    const { status, fetchStatus } = query.state
    const what = query.meta?.what
    if (typeof what !== 'string' || query.getObserversCount() === 0) continue
    if (status !== 'pending' || fetchStatus === 'idle') since.delete(query.queryHash)
    if (status === 'error' && fetchStatus === 'idle') found.push({ query, what, failed: true })
    if (status !== 'pending' || fetchStatus === 'idle') continue
    const began = since.get(query.queryHash) ?? now
    since.set(query.queryHash, began)
    if (now - began >= late) found.push({ query, what, failed: false })
    else soonest = Math.min(soonest, began + late - now)
  }
  faults.value = found
  if (soonest < Infinity) timer = setTimeout(look, soonest)
}
const stop = cache.subscribe(() => queueMicrotask(look))
look()
onBeforeUnmount(() => {
  stop()
  clearTimeout(timer)
})

const again = () => {
  for (const f of faults.value) void f.query.fetch()
}
</script>

<template>
  <p v-if="faults.length && !away" class="fault" role="alert">
    {{ faults.every((f) => f.failed) ? 'Could not be read' : 'Slow to come' }}:
    {{ faults.map((f) => f.what).join(', ') }}.
    <button class="plain do" type="button" @click="again">Try again</button>
  </p>
</template>

<style scoped>
.fault {
  background: var(--oxblood-wash);
  border-bottom: 1px solid var(--oxblood);
  margin: 0;
  padding: 5px 16px;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
