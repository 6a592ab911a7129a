<script setup lang="ts">
import { glyphs, type GlyphName } from './glyphs'

// one of its own, or one that a station brings
defineProps<{ name?: GlyphName; path?: string; size?: number }>()
</script>

<template>
  <svg
    :width="size ?? 26"
    :height="size ?? 26"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    stroke-width="1.5"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true"
  >
    <path :d="path ?? (name && glyphs[name])" />
  </svg>
</template>
