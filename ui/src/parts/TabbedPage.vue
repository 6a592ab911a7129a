<script setup lang="ts" generic="Id extends string">
import TabRow from './TabRow.vue'

// A station of several views: its name and a row of tabs on top, the open view below.
defineProps<{ title: string; views: readonly { id: Id; name: string }[]; label: string }>()
const view = defineModel<Id>({ required: true })
</script>

<template>
  <div class="page">
    <header class="no-print">
      <h1>{{ title }}</h1>
      <TabRow v-model="view" :tabs="views" :label="label" />
    </header>
    <slot />
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

.page > :slotted(:last-child) {
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
