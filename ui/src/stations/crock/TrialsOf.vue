<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, ask } from '../../api/client'
import { useFoundCauses } from '../../api/queries'
import { canMake } from '../../api/session'
import FoundCauses from '../../parts/FoundCauses.vue'
import { day } from '../../words'

// What trials said of a formula: readings say what the water will do, trials what was seen.
const props = defineProps<{ id: string; version: number }>()
const { data } = useQuery({
  queryKey: computed(() => ['trials', 'formula', props.id]),
  queryFn: () => ask(api.GET('/api/trials', { params: { query: { formula: props.id } } })),
  enabled: computed(() => !!props.id),
  meta: { what: 'the trials of it' },
})
const { data: found, back } = useFoundCauses(
  computed(() => props.id),
  computed(() => !!props.id),
)
const ended = computed(() => (data.value ?? []).filter((t) => t.ended))
const versionIn = (t: (typeof ended.value)[number]) => t.goods.find((g) => g.formula === props.id)?.version
</script>

<template>
  <section class="trials">
    <template v-if="ended.length">
      <h3>What trials said</h3>
      <ul>
        <li v-for="t in ended" :key="t.id">
          <RouterLink :to="`/trials/of/${t.id}`">{{ t.question }}</RouterLink>
          <span class="soft small">
            {{ day(t.ended_at)
            }}<template v-if="versionIn(t) !== version">, of version {{ versionIn(t) }}</template></span
          >
          <p v-for="c in t.answer?.comparisons" :key="c.good">{{ c.says }}</p>
        </li>
      </ul>
    </template>
    <template v-if="id && found?.length">
      <h3>What went wrong with it</h3>
      <FoundCauses :found="found" :may-change="canMake" @back="back.mutate($event)" />
    </template>
    <p class="no-print">
      <RouterLink :to="{ path: '/trials/why', query: { formula: id } }"
        >Something went wrong with it?</RouterLink
      >
      ·
      <RouterLink :to="{ path: '/trials/new', query: { formula: id } }">Try it against another</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.trials {
  border-top: 1px solid var(--clay-line);
  margin-top: 18px;
  padding-top: 8px;
}

h3 {
  margin: 4px 0;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li p {
  margin: 2px 0 8px;
}

li .small {
  margin-left: 8px;
}
</style>
