<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { onBeforeUnmount, watch } from 'vue'

import { api, ask, away } from '../api/client'
import { dismiss, flush, refused, waiting } from '../api/outbox'

// A quiet band while the server or its database does not answer. It asks again
// until one does, then everything on the page is looked at anew.
const client = useQueryClient()
const again = 1500 // ms
let timer: ReturnType<typeof setTimeout> | undefined

async function look() {
  try {
    await ask(api.GET('/api/health'))
    await flush() // what was done here comes before what is read again
    void client.invalidateQueries()
  } catch {
    timer = setTimeout(look, again)
  }
}
watch(away, (now, before) => {
  if (!now || before) return
  clearTimeout(timer)
  timer = setTimeout(look, again)
})
// what a page left behind that was closed while the line was down
if (waiting.value.length) void look()
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <div class="away" :class="{ shown: away || waiting.length || refused.length }" role="status">
    <p v-if="away">{{ away }}</p>
    <p v-if="waiting.length">
      {{ waiting.length === 1 ? 'One thing' : `${waiting.length} things` }} you did
      {{ waiting.length === 1 ? 'waits' : 'wait' }} here to be sent, in order:
      {{ waiting.map((k) => k.said).join('; ') }}
    </p>
    <p v-for="r in refused" :key="r.key" class="bad">
      Not recorded: {{ r.said }}. {{ r.why }}
      <button class="plain do" type="button" @click="dismiss(r)">I have seen it</button>
    </p>
  </div>
</template>

<style scoped>
.away {
  grid-column: -2;
  margin: 0;
}

.away p {
  margin: 0;
}

.do {
  text-decoration: underline;
}

.away.shown {
  background: var(--ochre-wash);
  border-bottom: 1px solid var(--ochre);
  padding: 5px 16px;
}
</style>
