<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink, useRoute } from 'vue-router'

import Glyph from '../parts/Glyph.vue'
import type { Station } from '../registry'

// A station in the rail, with the number key that leads there.
const props = defineProps<{ station: Station; number?: number }>()
const route = useRoute()
const title = computed(
  () => `${props.station.title}: ${props.station.does}${props.number ? ` (${props.number})` : ''}`,
)
</script>

<template>
  <RouterLink
    :to="`/${station.name}`"
    class="station"
    :class="{ here: route.name === station.name }"
    :title="title"
  >
    <Glyph :path="station.glyph" />
    <span>{{ station.title }}</span>
  </RouterLink>
</template>
