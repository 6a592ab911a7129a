<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watchEffect } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask } from '../api/client'
import { sentence } from '../words'
import { session } from '../api/session'
import GoodSheet from '../parts/GoodSheet.vue'
import JarWhy from './JarWhy.vue'
import OwnJar from './OwnJar.vue'

// What a phone shows that read the code of a jar, without anyone signed in.
const route = useRoute()
const hardness = ref('')
const waters = [
  { value: '', name: 'where it was made' },
  { value: '30 mg/l', name: 'soft' },
  { value: '90 mg/l', name: 'medium' },
  { value: '150 mg/l', name: 'hard' },
  { value: '300 mg/l', name: 'very hard' },
]
const { data, error, isPending } = useQuery({
  queryKey: computed(() => ['jar', route.params.token, hardness.value]),
  queryFn: () =>
    ask(
      api.GET('/api/jar-pages/{token}', {
        params: {
          path: { token: String(route.params.token) },
          query: { hardness: hardness.value || undefined },
        },
      }),
    ),
  placeholderData: keepPreviousData,
  retry: false,
})
watchEffect(() => (document.title = data.value ? `${data.value.name}, ${data.value.workshop}` : 'A jar'))
</script>

<template>
  <main class="jar-page">
    <p v-if="isPending" class="soft">Looking…</p>
    <p v-if="error" class="bad" role="alert">{{ sentence(error) }}</p>
    <GoodSheet v-if="data" :page="data">
      <template v-if="data.doses.length" #water>
        <label class="water">
          <span class="field-label">Your water</span>
          <select v-model="hardness" class="plain-field" name="jar-hardness">
            <option v-for="w in waters" :key="w.value" :value="w.value">{{ w.name }}</option>
          </select>
          <span class="soft small"
            >{{ data.hardness_class }}, {{ Math.round(data.hardness_mg_per_l ?? 0) }} mg/l</span
          >
        </label>
      </template>
    </GoodSheet>
    <JarWhy v-if="data" :token="String(route.params.token)" :hardness="hardness" />
    <OwnJar v-if="session && data" :code="data.code" />
  </main>
</template>

<style scoped>
.jar-page {
  height: 100%;
  margin: 0 auto;
  max-width: 800px;
  overflow: auto;
  padding: 18px 18px 40px;
}

.water {
  display: block;
  margin: 12px 0;
  max-width: 260px;
}

.water select {
  min-height: 44px;
}
</style>
