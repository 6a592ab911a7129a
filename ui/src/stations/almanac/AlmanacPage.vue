<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { canMake } from '../../api/session'
import TabRow from '../../parts/TabRow.vue'
import NeedView from './NeedView.vue'
import PlanView from './PlanView.vue'
import TodayView from './TodayView.vue'

// What to make when: for what is ordered and what usually goes, and what that is today.
const route = useRoute()
const router = useRouter()
const views = [
  { id: 'plan', name: 'Plan' },
  { id: 'today', name: 'Today' },
  { id: 'need', name: 'What usually goes' },
] as const
const view = computed({
  get: () => views.find((v) => v.id === route.params.view)?.id ?? 'plan',
  set: (id) => void router.replace(`/almanac/${id}`),
})
</script>

<template>
  <div v-if="!canMake" class="beside">
    <section class="main-part">
      <h1>Almanac</h1>
      <p class="empty">What is ordered is for those who make it.</p>
    </section>
  </div>
  <div v-else class="page">
    <header class="no-print">
      <h1>Almanac</h1>
      <TabRow v-model="view" :tabs="views" label="What of the almanac" />
    </header>
    <PlanView v-if="view === 'plan'" />
    <TodayView v-else-if="view === 'today'" />
    <NeedView v-else />
  </div>
</template>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  height: 100%;
}

header {
  align-items: baseline;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
  padding: 14px 24px 0;
}

header :deep(.tabs) {
  border-bottom: 0;
}

.page > :last-child {
  flex: 1;
  min-height: 0;
}

@media (max-width: 900px) {
  .page {
    height: auto;
  }

  header {
    padding: 10px 16px 0;
  }
}
</style>
