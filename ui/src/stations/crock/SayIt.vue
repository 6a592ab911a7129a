<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { onMounted, ref } from 'vue'

import { api, ask, sentence, type Schemas } from '../../api/client'

// A formula, or a few lines of one, the way a maker says it.
const props = defineProps<{ empty: boolean }>()
const emit = defineEmits<{ lines: [Schemas['FormulaLine'][]] }>()

const field = ref<HTMLInputElement>()
onMounted(() => props.empty && field.value?.focus())

const text = ref('')
const unread = ref<Schemas['SpokenLine'][]>([])

const say = useMutation({
  mutationFn: () => ask(api.POST('/api/spoken', { body: { text: text.value } })),
  onSuccess: (spoken) => {
    const lines = spoken.flatMap((s) => (s.line ? [s.line] : []))
    unread.value = spoken.filter((s) => !s.line)
    text.value = unread.value.map((s) => s.text).join(', ')
    if (lines.length) emit('lines', lines)
  },
})
</script>

<template>
  <form class="say" @submit.prevent="say.mutate()">
    <input
      ref="field"
      v-model="text"
      name="say"
      :placeholder="
        empty
          ? 'Say it: 2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda'
          : 'and 10 drops lavender oil'
      "
      aria-label="Say more lines"
    />
    <button type="submit" class="plain add" :disabled="!text.trim()">add</button>
    <ul v-if="unread.length || say.isError.value" role="alert">
      <li v-if="say.isError.value" class="bad">{{ sentence(say.error.value) }}</li>
      <li v-for="s in unread" :key="s.text">
        “{{ s.text }}”: <span class="bad">{{ s.problem?.detail }}</span>
        <RouterLink v-if="s.problem?.code === 'unknown-material'" to="/shelf/new">
          Make it a material of your own
        </RouterLink>
      </li>
    </ul>
  </form>
</template>

<style scoped>
.say {
  display: grid;
  grid-template-columns: 1fr auto;
  margin-top: 8px;
}

input {
  background: var(--slip-raised);
  border: 1px dashed var(--clay);
  border-radius: var(--corner);
  color: inherit;
  font: inherit;
  min-width: 0;
  padding: 9px 10px;
}

.add {
  color: var(--cobalt);
  padding: 0 14px;
}

.add:disabled {
  opacity: 0.4;
}

ul {
  font-size: 14px;
  grid-column: 1 / 3;
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
</style>
