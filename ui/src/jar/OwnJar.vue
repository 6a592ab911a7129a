<script setup lang="ts">
import { computed } from 'vue'

import { usePantry } from '../api/queries'

// The way from a jar's page to the jar, for whoever is signed in where it was made.
const props = defineProps<{ code: string }>()
const { goods } = usePantry(true)
const own = computed(() =>
  goods.value?.find((g) => props.code === g.code || props.code.startsWith(`${g.code}/`)),
)
</script>

<template>
  <p>
    <RouterLink v-if="own" :to="`/pantry/${own.batch}`">{{ own.code }} in the pantry</RouterLink>
    <RouterLink v-else to="/pantry">To the pantry</RouterLink>
  </p>
</template>
