<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import FormulaEditor from './FormulaEditor.vue'
import FormulaList from './FormulaList.vue'

const route = useRoute()
const id = computed(() => String(route.params.id ?? ''))
</script>

<template>
  <FormulaEditor v-if="id" :id="id" :key="id" />
  <FormulaList v-else />
</template>
