<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { canMake } from '../../api/session'
import TabbedPage from '../../parts/TabbedPage.vue'
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
  <TabbedPage v-else v-model="view" title="Almanac" :views="views" label="What of the almanac">
    <PlanView v-if="view === 'plan'" />
    <TodayView v-else-if="view === 'today'" />
    <NeedView v-else />
  </TabbedPage>
</template>
