<script setup lang="ts">
// Hazard pictograms, as the server draws them.
withDefaults(defineProps<{ codes: string[]; size?: number }>(), { size: 54 })

const names: Record<string, string> = {
  GHS02: 'flame',
  GHS03: 'flame over circle',
  GHS05: 'corrosion',
  GHS06: 'skull and crossbones',
  GHS07: 'exclamation mark',
  GHS08: 'health hazard',
  GHS09: 'environment',
}
</script>

<template>
  <span class="pictograms">
    <img
      v-for="c in codes"
      :key="c"
      :src="`/api/pictograms/${c}`"
      :alt="names[c] ?? c"
      :title="names[c] ?? c"
      :width="size"
      :height="size"
    />
  </span>
</template>

<style scoped>
.pictograms {
  display: inline-flex;
  gap: 4px;
}
</style>
