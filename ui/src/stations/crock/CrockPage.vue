<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'

import FormulaEditor from './FormulaEditor.vue'
import FormulaList from './FormulaList.vue'

const StartPage = defineAsyncComponent(() => import('./StartPage.vue'))

const route = useRoute()
const id = computed(() => String(route.params.id ?? ''))
</script>

<template>
  <StartPage v-if="id === 'start'" />
  <FormulaEditor v-else-if="id" :id="id" :key="id" />
  <FormulaList v-else />
</template>
