<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'

import { api, ask, sentence, type Schemas } from '../../api/client'

// A formula, or a few lines of one, the way a maker says it. What each word of
// it became is shown, so that nothing is dropped unseen; what was not understood
// becomes a line that asks.
const props = defineProps<{ empty: boolean }>()
const emit = defineEmits<{ lines: [Schemas['FormulaLine'][]]; method: [string] }>()

const field = ref<HTMLTextAreaElement>()
onMounted(() => props.empty && field.value?.focus())

const text = ref('')
const read = ref<Schemas['SpokenLine'][]>([])
const unread = computed(() => read.value.filter((s) => s.problem && !s.line))

const say = useMutation({
  mutationFn: () => ask(api.POST('/api/spoken', { body: { text: text.value } })),
  onSuccess: (spoken) => {
    read.value = spoken
    text.value = unread.value.map((s) => s.text).join(', ')
    const lines = spoken.flatMap((s) => (s.line ? [s.line] : []))
    if (lines.length) emit('lines', lines)
    const method = spoken.filter((s) => s.method).map((s) => s.text)
    if (method.length) emit('method', method.join('. '))
  },
})

const became = {
  amount: 'how much',
  material: 'a material',
  note: 'kept as a note',
  glue: 'says nothing more',
  unread: 'not understood',
} as const

function enter(e: KeyboardEvent) {
  if (e.shiftKey) return // a line of its own
  e.preventDefault()
  if (text.value.trim()) say.mutate()
}
</script>

<template>
  <form class="say" @submit.prevent="say.mutate()">
    <textarea
      ref="field"
      v-model="text"
      name="say"
      :rows="empty ? 3 : 1"
      :placeholder="
        empty
          ? 'Say it: two cups of soap flakes and a cup each of washing soda, borax and baking soda, plus 20 drops of lavender'
          : 'and 10 drops lavender oil'
      "
      aria-label="Say more lines"
      @keydown.enter="enter"
    />
    <button type="submit" class="plain add" :disabled="!text.trim()">add</button>
    <p v-if="say.isError.value" class="bad" role="alert">{{ sentence(say.error.value) }}</p>
    <div v-if="read.length" class="read small" role="status">
      <span class="soft">Read as</span>
      <ol>
        <li v-for="(s, i) in read" :key="i">
          <span v-for="(w, j) in s.words" :key="j" class="word" :class="w.became" :title="became[w.became]">{{
            w.text
          }}</span>
          <span v-if="s.name" class="soft"> → {{ s.name }}</span>
          <span v-else-if="s.method" class="soft"> → how it is made</span>
          <span v-if="s.problem && !s.line" class="bad"> {{ s.problem.detail }}</span>
        </li>
      </ol>
      <button class="plain soft close" type="button" aria-label="Close what was read" @click="read = []">
        ×
      </button>
    </div>
  </form>
</template>

<style scoped>
.say {
  display: grid;
  grid-template-columns: 1fr auto;
  margin-top: 8px;
}

textarea {
  background: var(--slip-raised);
  border: 1px dashed var(--clay);
  border-radius: var(--corner);
  color: inherit;
  field-sizing: content;
  font: inherit;
  max-height: 200px;
  min-width: 0;
  padding: 9px 10px;
  resize: vertical;
}

.add {
  color: var(--cobalt);
  padding: 0 14px;
}

.add:disabled {
  opacity: 0.4;
}

p,
.read {
  grid-column: 1 / 3;
  margin: 6px 0 0;
}

.read {
  border-left: 3px solid var(--clay-line);
  padding: 0 24px 0 10px;
  position: relative;
}

.close {
  font-size: 18px;
  position: absolute;
  right: 0;
  top: -4px;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

.word {
  border-radius: var(--corner);
  margin-right: 4px;
}

.word.amount {
  font-weight: 600;
}

.word.material {
  border-bottom: 2px solid var(--celadon);
}

.word.note {
  border-bottom: 2px dotted var(--clay);
}

.word.glue {
  color: var(--ink-soft);
}

.word.unread {
  background: var(--ochre-wash);
  border-bottom: 2px solid var(--ochre);
}
</style>
