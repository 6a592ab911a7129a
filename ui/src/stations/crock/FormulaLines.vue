<script setup lang="ts">
import { nextTick, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import { canMake } from '../../api/session'
import { grams, percent, spread } from '../../words'
import type { useDraft } from './useDraft'

const props = defineProps<{ draft: ReturnType<typeof useDraft>; assessment?: Schemas['Assessment'] }>()
const { data: materials } = useMaterials()
const rows = ref<HTMLElement>()

/** What is wrong with a line, said in its place. */
function troubles(i: number) {
  return (props.assessment?.problems ?? []).filter((p) => p.field?.startsWith(`lines[${i}].`))
}

function order(i: number) {
  return (props.assessment?.order ?? []).filter((o) => o.line === i)
}

const nameOf = (material: string) => materials.value?.find((m) => m.id === material)?.name ?? material

function set(i: number, part: 'amount' | 'material', value: string) {
  props.draft.change(`lines[${i}].${part}`, (f) => {
    const line = f.lines[i]
    if (!line) return
    const named =
      part === 'material'
        ? materials.value?.find((m) => m.name.toLowerCase() === value.toLowerCase())
        : undefined
    line[part] = named?.id ?? value
  })
}

function focus(i: number, part: string) {
  void nextTick(() => rows.value?.querySelector<HTMLInputElement>(`[data-cell="${i}-${part}"]`)?.focus())
}

function move(i: number, by: number) {
  const to = i + by
  if (to < 0 || to >= props.draft.file.value.lines.length) return
  props.draft.change('', (f) => {
    const [line] = f.lines.splice(i, 1)
    if (line) f.lines.splice(to, 0, line)
  })
  focus(to, 'amount')
}

function next(i: number) {
  if (i + 1 < props.draft.file.value.lines.length) focus(i + 1, 'amount')
  else document.querySelector<HTMLInputElement>('input[name="say"]')?.focus()
}

function key(e: KeyboardEvent, i: number) {
  if (e.key === 'Enter') next(i)
  else if (e.altKey && e.key === 'ArrowUp') move(i, -1)
  else if (e.altKey && e.key === 'ArrowDown') move(i, 1)
  else return
  e.preventDefault()
}
</script>

<template>
  <div ref="rows" class="lines">
    <datalist id="material-names">
      <option v-for="m in materials ?? []" :key="m.id" :value="m.name" />
    </datalist>
    <div v-for="(line, i) in draft.file.value.lines" :key="i" class="line">
      <input
        class="amount num"
        :value="line.amount"
        :data-cell="`${i}-amount`"
        :aria-label="`Amount of line ${i + 1}`"
        :aria-invalid="troubles(i).some((p) => p.field?.endsWith('amount'))"
        :readonly="!canMake"
        @input="set(i, 'amount', ($event.target as HTMLInputElement).value)"
        @keydown="key($event, i)"
      />
      <input
        class="material"
        :value="nameOf(line.material)"
        :data-cell="`${i}-material`"
        :aria-label="`Material of line ${i + 1}`"
        :aria-invalid="troubles(i).some((p) => p.field?.endsWith('material'))"
        list="material-names"
        :readonly="!canMake"
        @change="set(i, 'material', ($event.target as HTMLInputElement).value)"
        @keydown="key($event, i)"
      />
      <span class="mass">
        <template v-if="assessment?.lines[i] && !troubles(i).length">
          <span class="num g">{{ grams(assessment.lines[i]!.mass_g.value) }}</span>
          <span class="soft spread">{{ spread(assessment.lines[i]!.mass_g) }}</span>
        </template>
      </span>
      <span class="num share">{{
        assessment?.lines[i] && !troubles(i).length ? percent(assessment.lines[i]!.share) : ''
      }}</span>
      <button
        v-if="canMake"
        class="plain out"
        type="button"
        :aria-label="`Take out line ${i + 1}`"
        title="Take this line out"
        @click="draft.change('', (f) => f.lines.splice(i, 1))"
      >
        ×
      </button>
      <p v-for="p in troubles(i)" :key="p.code" class="trouble bad" role="alert">
        {{ p.detail }}
        <button
          v-for="n in p.nearest ?? []"
          :key="n"
          class="plain near"
          type="button"
          @click="set(i, 'material', n)"
        >
          {{ n }}
        </button>
      </p>
      <p v-for="o in order(i)" :key="o.code" class="trouble watch">{{ o.text }} {{ o.advice }}</p>
    </div>
  </div>
</template>

<style scoped>
.line {
  align-items: baseline;
  border-bottom: 1px solid var(--clay-line);
  display: grid;
  gap: 0 8px;
  grid-template-columns: 118px minmax(110px, 1fr) 108px 44px 22px;
  padding: 5px 0;
}

.line input {
  background: none;
  border: 1px solid transparent;
  border-radius: var(--corner);
  color: inherit;
  font-size: 16px;
  min-width: 0;
  padding: 4px 5px;
  width: 100%;
}

.line input:hover,
.line input:focus {
  background: var(--slip-raised);
  border-color: var(--clay);
}

.line input[aria-invalid='true'] {
  border-color: var(--oxblood);
}

.amount {
  font-weight: 600;
}

.material {
  font-family: var(--text);
}

.mass {
  display: flex;
  flex-direction: column;
  line-height: 1.2;
  text-align: right;
}

.g {
  font-size: 17px;
}

.spread {
  font-size: 12px;
}

.share {
  font-size: 17px;
  font-weight: 600;
  text-align: right;
}

.out {
  color: var(--ink-soft);
  font-size: 18px;
  padding: 2px 4px;
}

.trouble {
  font-size: 13.5px;
  grid-column: 1 / -1;
  margin: 2px 0 4px 6px;
}

.watch {
  color: var(--ochre-ink);
}

.near {
  color: var(--cobalt);
  margin-left: 8px;
  text-decoration: underline;
}
</style>
