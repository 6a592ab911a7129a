<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask } from '../../api/client'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import PageTables from './PageTables.vue'

// What the program knows, to be read and printed: each number is its own, with its source.
const route = useRoute()
const page = computed(() => String(route.params.page ?? ''))
const find = ref(typeof route.query.find === 'string' ? route.query.find : '')
const settled = useSettled(find, 250)
const { data: pages } = useQuery({
  queryKey: ['handbook', 'pages'],
  queryFn: () => ask(api.GET('/api/handbook')),
  staleTime: Infinity,
})
const {
  data: open,
  isPending,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => ['handbook', 'page', page.value]),
  queryFn: () => ask(api.GET('/api/handbook/{page}', { params: { path: { page: page.value } } })),
  enabled: computed(() => !!page.value),
})
const looksFor = computed(() => settled.value.trim().length > 1)
const { data: found, isFetching } = useQuery({
  queryKey: computed(() => ['handbook', 'find', settled.value]),
  queryFn: () => ask(api.GET('/api/handbook', { params: { query: { find: settled.value } } })),
  enabled: looksFor,
  placeholderData: (last) => last,
})
const print = () => window.print()
</script>

<template>
  <div class="beside">
    <nav class="pages no-print" aria-label="Pages of the handbook">
      <h1>Handbook</h1>
      <label>
        <span class="field-label">Find a word or a number’s source</span>
        <Input v-model:value="find" name="find-handbook" :maxlength="80" placeholder="borax" />
      </label>
      <ul>
        <li v-for="p in pages" :key="p.page">
          <RouterLink :to="`/handbook/${p.page}`" :class="{ on: p.page === page }" @click="find = ''">{{
            p.title
          }}</RouterLink>
        </li>
      </ul>
    </nav>
    <section class="main-part" tabindex="0" aria-label="The page">
      <template v-if="looksFor && found">
        <p v-if="!found.length && !isFetching" class="empty">Nothing in it has all of “{{ settled }}”.</p>
        <template v-for="p in found" :key="p.page">
          <h2>
            <RouterLink :to="`/handbook/${p.page}`" @click="find = ''">{{ p.title }}</RouterLink>
          </h2>
          <PageTables :tables="p.tables" />
        </template>
      </template>
      <template v-else-if="page">
        <Looking :pending="isPending" :error="error" @again="refetch()" />
        <template v-if="open">
          <header>
            <h2>{{ open.title }}</h2>
            <span class="spring" />
            <Button class="no-print" @click="print">Print</Button>
          </header>
          <p class="about">{{ open.about }}</p>
          <PageTables :tables="open.tables" />
        </template>
      </template>
      <template v-else>
        <p class="about">
          What this house knows, and where each of its numbers is from: a publication, common practice, or
          memory, which is said. Local codes and licensed practice go before all of it.
        </p>
        <ul class="all">
          <li v-for="p in pages" :key="p.page">
            <RouterLink :to="`/handbook/${p.page}`"
              ><strong>{{ p.title }}</strong></RouterLink
            >
            <div class="soft">{{ p.about }}</div>
          </li>
        </ul>
        <p class="soft">Press <kbd>?</kbd> anywhere for the keys of where you are.</p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.pages {
  background: var(--slip-raised);
  border-right: 1px solid var(--clay-line);
  flex: 0 0 250px;
  overflow: auto;
  padding: 14px 18px;
}

.pages ul,
.all {
  list-style: none;
  margin: 14px 0;
  padding: 0;
}

.pages a {
  display: block;
  min-height: 32px;
  padding: 5px 0;
}

.pages a.on {
  font-weight: 600;
}

.all li {
  border-bottom: 1px solid var(--clay-line);
  max-width: 72ch;
  padding: 10px 0;
}

header {
  align-items: baseline;
  display: flex;
}

.spring {
  flex: 1;
}

.about {
  max-width: 66ch;
}

@media (max-width: 900px) {
  .pages {
    border-right: 0;
    flex-basis: auto;
  }
}
</style>
