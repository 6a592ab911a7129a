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
  --wide: 24px;
  --high: 24px;

  color: var(--ink-soft);
  font: 600 11px/1 var(--text);
  height: var(--high);
  margin: calc((18px - var(--high)) / 2) calc((20px - var(--wide)) / 2) calc((18px - var(--high)) / 2)
    calc((28px - var(--wide)) / 2);
  padding: 0;
  position: relative;
  text-align: center;
  vertical-align: middle;
  width: var(--wide);
}

/* a finger's width; no higher than leaves the field below it to the finger too */
@media (max-width: 700px), (pointer: coarse) {
  .ask {
    --wide: 44px;
    --high: 28px;
  }
}

.ask::after {
  border: 1px solid var(--clay-line);
  border-radius: 50%;
  content: '';
  inset: calc((var(--high) - 18px) / 2) calc((var(--wide) - 18px) / 2);
  position: absolute;
}

.ask:hover {
  color: var(--cobalt);
}

@media print {
  .ask {
    display: none;
  }
}

.ask:hover::after {
  border-color: var(--cobalt);
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
