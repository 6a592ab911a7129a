<script setup lang="ts">
import { hatches } from './hatches'

// The patterns of all hatches, for the defs of a drawing; a page holds them once.
</script>

<template>
  <pattern
    v-for="h in hatches"
    :id="`hatch-${h.id}`"
    :key="h.id"
    :width="h.size"
    :height="h.size"
    patternUnits="userSpaceOnUse"
  >
    <rect :width="h.size" :height="h.size" :fill="h.ground" />
    <path :d="h.path" fill="none" :stroke="h.ink" :stroke-width="h.weight" stroke-linecap="round" />
  </pattern>
</template>
