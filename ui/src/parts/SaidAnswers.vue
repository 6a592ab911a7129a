<script setup lang="ts">
import { computed } from 'vue'

import { offered, saidAs, type Heard, type Offered } from './said'

// The names that answer what is asked of a line that was said, to be tapped. While it is being
// said the text says the name from then on; what was taken in already has it chosen.
const props = defineProps<{ question: Offered; heard?: Heard; good?: number }>()
const emit = defineEmits<{ said: [string]; chosen: [string] }>()

/** The text with that name said; nothing where no text is being said. */
const said = (name: string) => props.heard && saidAs(props.heard, props.question.line ?? 0, name, props.good)
const names = computed(() =>
  offered(props.question).filter((n) => said(n) !== props.heard?.text || !props.heard),
)
function choose(name: string) {
  const text = said(name)
  if (text === undefined) emit('chosen', name)
  else emit('said', text)
}
</script>

<template>
  <button v-for="n in names" :key="n" class="plain chip" type="button" @click="choose(n)">{{ n }}</button>
</template>

<style scoped>
.chip {
  color: var(--cobalt);
  margin-right: 12px;
  min-height: 26px;
  text-decoration: underline;
}

@media (pointer: coarse) {
  .chip {
    min-height: 44px;
    padding: 0 6px;
  }
}
</style>
