<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import TabbedPage from '../../parts/TabbedPage.vue'
import FiguresView from './FiguresView.vue'
import SamplesView from './SamplesView.vue'
import StainView from './StainView.vue'
import TrialList from './TrialList.vue'
import TrialNew from './TrialNew.vue'
import TrialView from './TrialView.vue'
import WhyView from './WhyView.vue'

// What was better, by trials; why something went wrong; what was measured here.
const route = useRoute()
const router = useRouter()
const views = [
  { id: 'all', name: 'Trials' },
  { id: 'why', name: 'Why?' },
  { id: 'stain', name: 'Stains' },
  { id: 'samples', name: 'Samples' },
  { id: 'figures', name: 'Own figures' },
] as const
const at = computed(() => String(route.params.view ?? 'all'))
const view = computed({
  get: () => views.find((v) => v.id === at.value)?.id ?? 'all',
  set: (id) => void router.replace(id === 'all' ? '/trials' : `/trials/${id}`),
})
</script>

<template>
  <TabbedPage v-model="view" title="Trials" :views="views" label="What of trials">
    <WhyView v-if="view === 'why'" />
    <StainView v-else-if="view === 'stain'" />
    <SamplesView v-else-if="view === 'samples'" />
    <FiguresView v-else-if="view === 'figures'" />
    <TrialNew v-else-if="at === 'new'" />
    <TrialView
      v-else-if="at === 'of' && route.params.id"
      :key="String(route.params.id)"
      :trial="String(route.params.id)"
    />
    <TrialList v-else />
  </TabbedPage>
</template>
