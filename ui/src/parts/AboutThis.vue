<script setup lang="ts">
import { Popover } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { about, type About, type Topic } from './about'

// “What is this?” of a field or a figure: opened by hover, by tap and by keys.
const props = defineProps<{ of: Topic }>()
const open = ref(false)
const says = computed<About>(() => about[props.of])
const spoken = computed(() => `${says.value.act} ${says.value.is} ${says.value.by ?? ''}`)
</script>

<template>
  <Popover v-model:open="open" trigger="hover" overlay-class-name="about-this">
    <template #content>
      <p class="act">{{ says.act }}</p>
      <p>{{ says.is }}</p>
      <p v-if="says.by" class="soft small">{{ says.by }}</p>
    </template>
    <button
      class="plain ask"
      type="button"
      aria-label="What is this?"
      :aria-expanded="open"
      @click.prevent="open = true"
      @blur="open = false"
      @keydown.esc.stop="open = false"
    >
      ?
    </button>
  </Popover>
  <span v-if="open" class="unseen" role="status">{{ spoken }}</span>
</template>

<style scoped>
.ask {
  border: 1px solid var(--clay-line);
  border-radius: 50%;
  color: var(--ink-soft);
  font: 600 11px/16px var(--text);
  height: 18px;
  margin-left: 5px;
  position: relative;
  text-align: center;
  width: 18px;
}

/* a finger's width, where one is pressed */
.ask::after {
  content: '';
  inset: -13px;
  position: absolute;
}

.ask:hover {
  border-color: var(--cobalt);
  color: var(--cobalt);
}
</style>

<style>
.about-this {
  max-width: min(340px, 92vw);
}

.about-this p {
  margin: 0 0 4px;
}

.about-this .act {
  font-weight: 600;
}
</style>
