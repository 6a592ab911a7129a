<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useGood } from '../../api/queries'
import Looking from '../../parts/Looking.vue'
import TabRow from '../../parts/TabRow.vue'
import { day } from '../../words'
import CardFinder from './CardFinder.vue'
import DilutionForm from './DilutionForm.vue'
import DoseTable from './DoseTable.vue'
import FillCheck from './FillCheck.vue'
import HandoutSheet from './HandoutSheet.vue'
import LabelMaker from './LabelMaker.vue'

// One good on its way out of the house: labelled, checked, dosed, explained.
const route = useRoute()
const router = useRouter()
const batch = computed(() => String(route.params.batch))
const { data: good, error, refetch } = useGood(batch)

const views = [
  { id: 'label', name: 'Label' },
  { id: 'fill', name: 'Check a fill' },
  { id: 'doses', name: 'Doses' },
  { id: 'dilute', name: 'Dilute' },
  { id: 'cards', name: 'Use cards' },
  { id: 'sheet', name: 'To hand out' },
] as const
const view = computed({
  get: () => views.find((v) => v.id === route.params.view)?.id ?? 'label',
  set: (id) => void router.replace(`/pantry/${batch.value}/${id}`),
})
</script>

<template>
  <section class="good">
    <header class="no-print">
      <RouterLink :to="`/pantry/${batch}`" class="back">Pantry</RouterLink>
      <h1>{{ good?.name ?? 'A good' }}</h1>
      <span v-if="good" class="soft">
        {{ good.kind_name }} · {{ good.code }} · best before {{ day(good.best_before) }}
      </span>
    </header>
    <Looking :error="error" @again="refetch()" />
    <TabRow v-model="view" class="tabs no-print" :tabs="views" label="What to do with it" />
    <template v-if="good">
      <LabelMaker v-if="view === 'label'" :good="good" />
      <FillCheck v-else-if="view === 'fill'" :good="good" />
      <DoseTable v-else-if="view === 'doses'" :good="good" />
      <DilutionForm v-else-if="view === 'dilute'" :good="good" />
      <CardFinder v-else-if="view === 'cards'" :batch="batch" />
      <HandoutSheet v-else :batch="batch" />
    </template>
  </section>
</template>

<style scoped>
.good {
  height: 100%;
  overflow: auto;
  padding: 18px 24px 40px;
}

header {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}

.tabs {
  margin: 12px 0 16px;
}

@media (max-width: 900px) {
  .good {
    height: auto;
    padding: 14px 16px 30px;
  }
}

@media print {
  .good {
    height: auto;
    overflow: visible;
    padding: 0;
  }
}
</style>
