<script setup lang="ts" generic="Value extends string">
import { Select } from 'ant-design-vue'

// A choice over a list: which of it, or in which order. Its name is for those who hear it.
defineProps<{ label: string; options: readonly { value: Value; label: string }[] }>()
const value = defineModel<Value>({ required: true })
</script>

<template>
  <label class="by">
    <span class="unseen">{{ label }}</span>
    <Select v-model:value="value" :options="[...options]" class="select" />
  </label>
</template>

<style scoped>
.select {
  width: 170px;
}

@media (max-width: 480px) {
  .by {
    flex: 1 1 140px;
  }

  .select {
    width: 100%;
  }
}
</style>
