<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import TabbedPage from '../../parts/TabbedPage.vue'
import StainView from './StainView.vue'
import TrialList from './TrialList.vue'
import TrialNew from './TrialNew.vue'
import TrialView from './TrialView.vue'
import WhyView from './WhyView.vue'

// What was better, by trials; and why something went wrong.
const route = useRoute()
const router = useRouter()
const views = [
  { id: 'all', name: 'Trials' },
  { id: 'why', name: 'Why?' },
  { id: 'stain', name: 'Stains' },
] as const
const at = computed(() => String(route.params.view ?? 'all'))
const view = computed({
  get: () => (at.value === 'why' || at.value === 'stain' ? at.value : 'all'),
  set: (id) => void router.replace(id === 'all' ? '/trials' : `/trials/${id}`),
})
</script>

<template>
  <TabbedPage v-model="view" title="Trials" :views="views" label="What of trials">
    <WhyView v-if="view === 'why'" />
    <StainView v-else-if="view === 'stain'" />
    <TrialNew v-else-if="at === 'new'" />
    <TrialView
      v-else-if="at === 'of' && route.params.id"
      :key="String(route.params.id)"
      :trial="String(route.params.id)"
    />
    <TrialList v-else />
  </TabbedPage>
</template>
