<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { onBeforeUnmount, watch } from 'vue'

import { api, ask, away } from '../api/client'

// A quiet band while the server or its database does not answer. It asks again
// until one does, then everything on the page is looked at anew.
const client = useQueryClient()
const again = 1500 // ms
let timer: ReturnType<typeof setTimeout> | undefined

async function look() {
  try {
    await ask(api.GET('/api/health'))
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
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <p class="away" :class="{ shown: away }" role="status">{{ away }}</p>
</template>

<style scoped>
.away {
  grid-column: -2;
  margin: 0;
}

.away.shown {
  background: var(--ochre-wash);
  border-bottom: 1px solid var(--ochre);
  padding: 5px 16px;
}
</style>
