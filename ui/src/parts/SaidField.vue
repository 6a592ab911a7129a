<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Heard } from './said'
import { becameWords, stretches } from './said'

// A field that makers talk into. What is certain of it is marked as they type: materials
// underlined by the hatch of their jar, amounts heavier, corrections struck, questions in
// their place. The words are heard elsewhere and handed in; they may be of a text that was
// there a moment ago.
const props = defineProps<{
  modelValue: string
  heard?: Heard
  label: string
  name: string
  placeholder?: string
  rows?: number
  big?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [string]; commit: []; escape: [] }>()

const field = ref<HTMLTextAreaElement>()
const under = ref<HTMLElement>()
defineExpose({ focus: () => field.value?.focus() })

const parts = computed(() => stretches(props.modelValue, props.heard))

/** What lies under the letters goes where they go. */
function follow() {
  if (under.value && field.value) under.value.scrollTop = field.value.scrollTop
}

function keys(e: KeyboardEvent) {
  if (e.isComposing) return
  if (e.key === 'Enter' && !e.shiftKey) {
    e.preventDefault()
    if (props.modelValue.trim()) emit('commit')
  } else if (e.key === 'Escape') {
    e.stopPropagation()
    emit('escape')
  }
}
</script>

<template>
  <div class="said" :class="{ big }">
    <div ref="under" class="marks" aria-hidden="true">
      <span
        v-for="(p, i) in parts"
        :key="i"
        :class="[p.became, p.hatch && `hatch-${p.hatch}`]"
        :title="p.became && becameWords[p.became]"
        >{{ p.text }}</span>&#8203;
    </div>
    <textarea
      ref="field"
      :value="modelValue"
      :name="name"
      :rows="rows ?? 1"
      :placeholder="placeholder"
      :aria-label="label"
      autocomplete="off"
      autocapitalize="sentences"
      spellcheck="false"
      @input="emit('update:modelValue', ($event.target as HTMLTextAreaElement).value)"
      @keydown="keys"
      @scroll="follow"
    />
  </div>
</template>

<style scoped>
.said {
  display: grid;
  min-width: 0;
}

.marks,
textarea {
  border: 1px dashed var(--clay);
  border-radius: var(--corner);
  box-sizing: border-box;
  font: inherit;
  grid-area: 1 / 1;
  letter-spacing: inherit;
  line-height: 1.6;
  margin: 0;
  max-height: 56vh;
  min-width: 0;
  overflow: hidden auto;
  overflow-wrap: break-word;
  padding: 8px 10px;
  scrollbar-gutter: stable;
  white-space: pre-wrap;
  width: 100%;
}

.big .marks,
.big textarea {
  font-size: 20px;
}

/* the letters are the field's; what lies under them is drawn */
.marks {
  background: var(--slip-raised);
  border-color: transparent;
  color: transparent;
  overflow: hidden;
  pointer-events: none;
}

textarea {
  background: none;
  color: inherit;
  field-sizing: content;
  resize: none;
}

textarea:focus-visible {
  border-style: solid;
}

.amount,
.packs,
.price {
  -webkit-text-stroke: 0.55px var(--ink);
}

.material,
.choice {
  background-image: linear-gradient(var(--celadon) 2px, transparent 2px);
  background-position: 0 100%;
  background-repeat: repeat-x;
  background-size: 9px 5px;
  padding-bottom: 1px;
}

.choice {
  opacity: 0.75;
}

.remark,
.place,
.step,
.use,
.yield,
.name,
.not,
.supplier,
.lot-code,
.date {
  text-decoration: underline dotted var(--clay) 2px;
  text-underline-offset: 4px;
}

.step,
.use,
.yield {
  text-decoration-style: dashed;
}

.not {
  text-decoration: underline double var(--oxblood) 1.5px;
  text-underline-offset: 3px;
}

.struck {
  text-decoration: line-through var(--oxblood) 2px;
}

.question,
.unread {
  background: var(--ochre-wash);
  text-decoration: underline wavy var(--ochre) 1.5px;
  text-underline-offset: 3px;
}

.left-out {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}

.hatch-alkali {
  background-image: repeating-linear-gradient(135deg, var(--ink-soft) 0 1px, var(--clay) 1px 4px);
}

.hatch-acid {
  background-image: repeating-linear-gradient(45deg, var(--ink-soft) 0 1px, var(--ochre) 1px 4px);
}

.hatch-soap {
  background-image: radial-gradient(circle at 50% 0, var(--celadon) 60%, transparent 62%);
}

.hatch-salt {
  background-image: radial-gradient(circle, var(--ink-soft) 25%, transparent 30%);
}

.hatch-bleach {
  background-image:
    linear-gradient(var(--cobalt), var(--cobalt)),
    linear-gradient(90deg, transparent 4px, var(--cobalt) 4px 5px, transparent 5px);
  background-size:
    9px 1px,
    9px 5px;
}

.hatch-liquid {
  background-image: linear-gradient(
    var(--cobalt) 1px,
    transparent 1px 3px,
    var(--cobalt) 3px 4px,
    transparent 4px
  );
}

.hatch-filler {
  background-image: repeating-linear-gradient(90deg, var(--ink-soft) 0 1px, transparent 1px 4px);
}

.hatch-scent {
  background-image: repeating-linear-gradient(90deg, var(--oxblood) 0 4px, transparent 4px 7px);
  background-size: 9px 2px;
}

@media print {
  .said {
    display: none;
  }
}
</style>
