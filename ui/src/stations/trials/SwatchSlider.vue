<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '../../api/client'

// Before and after in one picture: what is left of the line is before, what is right of it after.
defineProps<{ swatch: Schemas['CodeSwatch'] }>()
const at = ref(50)
const url = (id: string) => `/api/swatches/${id}`
</script>

<template>
  <div v-if="swatch.before && swatch.after" class="slider">
    <div class="pictures">
      <img :src="url(swatch.after.id)" alt="After the wash" />
      <img
        :src="url(swatch.before.id)"
        alt="Before the wash"
        :style="{ clipPath: `inset(0 ${100 - at}% 0 0)` }"
      />
      <span class="line" :style="{ left: `${at}%` }" aria-hidden="true" />
    </div>
    <label class="ends small no-print">
      <span>before</span>
      <input v-model.number="at" type="range" min="0" max="100" aria-label="How much of the picture before" />
      <span>after</span>
    </label>
  </div>
</template>

<style scoped>
.pictures {
  aspect-ratio: 4 / 3;
  background: var(--slip-sunk);
  overflow: hidden;
  position: relative;
}

img {
  height: 100%;
  inset: 0;
  object-fit: cover;
  position: absolute;
  width: 100%;
}

.line {
  background: var(--slip-raised);
  bottom: 0;
  box-shadow: 0 0 0 1px var(--ink);
  position: absolute;
  top: 0;
  width: 2px;
}

.ends {
  align-items: center;
  display: flex;
  gap: 10px;
}

input {
  accent-color: var(--cobalt);
  flex: 1;
  min-height: 44px;
  min-width: 0;
}
</style>
