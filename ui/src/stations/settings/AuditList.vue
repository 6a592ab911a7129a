<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import Looking from '../../parts/Looking.vue'
import { moment } from '../../words'

// Who came in, who may, what was taken out: for owners.
const page = 20
const { data, error, isPending, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery({
  queryKey: ['audit'],
  initialPageParam: 0,
  queryFn: ({ pageParam }) =>
    ask(api.GET('/api/audit', { params: { query: { before: pageParam, limit: page } } })),
  getNextPageParam: (last) => (last.length === page ? last[last.length - 1]?.id : undefined),
})
const rows = computed(() => data.value?.pages.flat() ?? [])

const words: Record<string, string> = {
  'signed-in': 'signed in',
  'sign-in-refused': 'could not sign in: wrong password or code',
  'signed-out': 'signed out',
  'session-ended': 'ended a session',
  'password-changed': 'changed their password',
  'password-reset': 'password reset at the machine',
  'second-factor-on': 'switched a second factor on',
  'second-factor-off': 'goes without a second factor',
  'person-added': 'let in',
  'role-changed': 'changed a role',
  'person-removed': 'took access away',
  exported: 'took the workshop along',
  renamed: 'renamed the workshop',
}

function told(a: Schemas['Audit']): string {
  return [words[a.kind] ?? a.kind, a.about].filter(Boolean).join(': ')
}
</script>

<template>
  <section class="below">
    <h2>Who came and went</h2>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <table v-if="rows.length" class="rows">
      <tbody>
        <tr v-for="a in rows" :key="a.id">
          <td class="when">{{ moment(a.at) }}</td>
          <td>
            <strong v-if="a.person">{{ a.person }}</strong> {{ told(a) }}
            <div class="soft small">{{ a.address ? `from ${a.address}` : 'at the machine' }}</div>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="!isPending && !error" class="soft">
      Nothing yet: sign-ins and changes of roles stand here.
    </p>
    <button
      v-if="hasNextPage"
      class="plain more"
      type="button"
      :disabled="isFetchingNextPage"
      @click="fetchNextPage()"
    >
      Show earlier ones
    </button>
  </section>
</template>

<style scoped>
.below {
  margin-top: 30px;
}

.when {
  white-space: nowrap;
}

.more {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
