<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { useRouter } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { day } from '../../words'

// All trials, those that are under way in front; each with its answer in a sentence.
const router = useRouter()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['trials', 'all'],
  queryFn: () => ask(api.GET('/api/trials')),
})
const says = (t: Schemas['Trial']) =>
  t.ended ? (t.answer?.comparisons ?? []).map((c) => c.says) : [`${t.marked} of ${t.wanted} marks are given.`]
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <p class="lead">
        Two goods side by side, in the same water and on the same soil, judged without knowing which is which:
        then it is told how clear the difference is, and no more than that.
      </p>
      <p v-if="canMake"><Button type="primary" @click="router.push('/trials/new')">Begin a trial</Button></p>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="data && !data.length" class="empty">No trial so far.</p>
      <ul v-if="data?.length" class="trials">
        <li v-for="t in data" :key="t.id">
          <RouterLink :to="`/trials/of/${t.id}`"
            ><strong>{{ t.question }}</strong></RouterLink
          >
          <span class="soft small when">
            {{ t.ended ? `ended ${day(t.ended_at)}` : `since ${day(t.began)}` }}</span
          >
          <p v-for="s in says(t)" :key="s">{{ s }}</p>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}

.trials {
  list-style: none;
  margin: 0;
  padding: 0;
}

.trials li {
  border-bottom: 1px solid var(--clay-line);
  padding: 12px 0;
}

.when {
  margin-left: 10px;
}

.trials p {
  margin: 4px 0 0;
  max-width: 72ch;
}
</style>
