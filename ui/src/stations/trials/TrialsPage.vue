<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import TabRow from '../../parts/TabRow.vue'
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
  <div class="page">
    <header class="no-print">
      <h1>Trials</h1>
      <TabRow v-model="view" :tabs="views" label="What of trials" />
    </header>
    <WhyView v-if="view === 'why'" />
    <StainView v-else-if="view === 'stain'" />
    <TrialNew v-else-if="at === 'new'" />
    <TrialView
      v-else-if="at === 'of' && route.params.id"
      :key="String(route.params.id)"
      :trial="String(route.params.id)"
    />
    <TrialList v-else />
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
