<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { canMake, isOwner } from '../../api/session'
import TabbedPage from '../../parts/TabbedPage.vue'
import BatchCost from './BatchCost.vue'
import BuyingView from './BuyingView.vue'
import GoodsView from './GoodsView.vue'
import SalesView from './SalesView.vue'
import StallView from './StallView.vue'
import YearView from './YearView.vue'

// What goods cost and bring, and who has them. An owner sees money; a maker sees what is sold.
const route = useRoute()
const router = useRouter()

const all = [
  { id: 'goods', name: 'Goods', owner: true },
  { id: 'sales', name: 'Sales', owner: false },
  { id: 'stall', name: 'Stall', owner: false },
  { id: 'buying', name: 'Buying', owner: true },
  { id: 'year', name: 'The year', owner: true },
] as const
const views = computed(() => all.filter((v) => isOwner.value || !v.owner))
const view = computed({
  get: () => views.value.find((v) => v.id === route.params.view)?.id ?? views.value[0]?.id ?? 'sales',
  set: (id) => void router.replace(`/ledger/${id}`),
})
const batch = computed(() => (route.params.view === 'batch' ? String(route.params.id ?? '') : ''))
</script>

<template>
  <div v-if="!canMake" class="beside">
    <section class="main-part">
      <h1>Ledger</h1>
      <p class="empty">
        What goods cost and who takes them is for those who make them. Ask an owner, if you need it.
      </p>
    </section>
  </div>
  <TabbedPage v-else v-model="view" title="Ledger" :views="views" label="What of the ledger">
    <BatchCost v-if="batch && isOwner" :key="batch" :batch="batch" />
    <GoodsView v-else-if="view === 'goods'" />
    <SalesView v-else-if="view === 'sales'" />
    <StallView v-else-if="view === 'stall'" />
    <BuyingView v-else-if="view === 'buying'" />
    <YearView v-else />
  </TabbedPage>
</template>
