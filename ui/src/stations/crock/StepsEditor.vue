<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { Select } from 'ant-design-vue'
import { computed, nextTick, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { useStepKinds } from '../../api/queries'
import { canMake } from '../../api/session'
import { moveStep, toggleLine, type FormulaStep } from './steps'
import type { useDraft } from './useDraft'

// How it is made, step by step: the usual steps of this kind and school to start
// from, each with its lines, its time and what is to be looked at.
const props = defineProps<{ draft: ReturnType<typeof useDraft>; assessment?: Schemas['Assessment'] }>()
const { data: known } = useStepKinds()
const rows = ref<HTMLElement>()

const steps = computed(() => props.draft.file.value.steps ?? [])
const kinds = computed(() => (known.value?.kinds ?? []).map((k) => ({ value: k.kind, label: k.name })))
const checks = computed(() => [
  { value: '', label: 'my own question' },
  ...(known.value?.checks ?? []).map((c) => ({ value: c.id, label: c.question })),
])
const byOptions = [
  { value: 'drop', label: 'by drops' },
  { value: 'spoon', label: 'by spoons' },
  { value: 'mist', label: 'as a mist' },
]
const lineName = (i: number) =>
  props.assessment?.lines[i]?.name || props.draft.file.value.lines[i]?.material || `line ${i + 1}`
const of = (kind: string) => known.value?.kinds.find((k) => k.kind === kind)
const takes = (s: FormulaStep) => of(s.kind)?.takes ?? false
const findings = (i: number) => (props.assessment?.order ?? []).filter((o) => o.step === i)
const left = computed(() => (props.assessment?.order ?? []).filter((o) => o.code === 'no-step'))

const ways = useMutation({ mutationFn: () => ask(api.POST('/api/steps', { body: props.draft.file.value })) })
function take(way: Schemas['WayOfMaking']) {
  props.draft.change('', (f) => {
    f.steps = way.steps
    f.version = 3
  })
  ways.reset()
}

const opened = ref<number>()
function set<K extends keyof FormulaStep>(i: number, part: K, value: FormulaStep[K]) {
  props.draft.change(`step-${i}-${part}`, (f) => {
    const s = f.steps?.[i]
    if (s) s[part] = value
  })
}
function add() {
  props.draft.change('', (f) => {
    f.version = 3
    const all = (f.steps ??= [])
    const before = all.at(-1)?.kind === 'fill' ? all.length - 1 : all.length
    all.splice(before, 0, { kind: 'mix' })
    opened.value = before
  })
}
function focus(i: number) {
  void nextTick(() => rows.value?.querySelector<HTMLElement>(`[data-step="${i}"]`)?.focus())
}
function move(i: number, by: number) {
  if (i + by < 0 || i + by >= steps.value.length) return
  props.draft.change('', (f) => moveStep(f, i, i + by))
  if (opened.value === i) opened.value = i + by
  focus(i + by)
}
function key(e: KeyboardEvent, i: number) {
  if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return
  e.preventDefault()
  move(i, e.key === 'ArrowUp' ? -1 : 1)
}

const dragged = ref<number>()
function drop(i: number) {
  const from = dragged.value
  dragged.value = undefined
  if (from === undefined || from === i) return
  opened.value = undefined
  props.draft.change('', (f) => moveStep(f, from, i))
}
const said = (s: FormulaStep) =>
  [
    s.lines?.map(lineName).join(', '),
    s.for,
    s.celsius ? `${s.celsius} °C` : '',
    s.by ? byOptions.find((o) => o.value === s.by)?.label : '',
    s.mould,
    s.stir ? `stir every ${s.stir}` : '',
    s.by_weight ? 'by weight' : '',
    s.keep ? `keep for the ${s.keep}` : '',
    s.kind === 'check' ? (checks.value.find((c) => c.value === s.check && s.check)?.label ?? s.text) : '',
  ]
    .filter(Boolean)
    .join(' · ')
const value = (e: Event) => (e.target as HTMLInputElement).value
</script>

<template>
  <div ref="rows" class="making">
    <ol v-if="steps.length">
      <li
        v-for="(s, i) in steps"
        :key="i"
        :class="{ open: opened === i, over: dragged !== undefined && dragged !== i }"
        @dragover.prevent
        @drop="drop(i)"
      >
        <div class="row">
          <span
            v-if="canMake"
            class="grip"
            draggable="true"
            title="Drag to another place"
            aria-hidden="true"
            @dragstart="dragged = i"
            @dragend="dragged = undefined"
            >⠿</span
          >
          <span class="num n">{{ i + 1 }}</span>
          <button
            class="plain name"
            type="button"
            :data-step="i"
            :aria-expanded="opened === i"
            :title="canMake ? 'Alt ↑ ↓ moves it' : ''"
            @click="opened = opened === i ? undefined : i"
            @keydown="key($event, i)"
          >
            <strong>{{ kinds.find((k) => k.value === s.kind)?.label ?? s.kind }}</strong>
            <span class="soft">{{ said(s) }}</span>
          </button>
          <button
            v-if="canMake"
            class="plain out"
            type="button"
            :aria-label="`Take out step ${i + 1}`"
            @click="draft.change('', (f) => f.steps?.splice(i, 1))"
          >
            ×
          </button>
        </div>
        <p v-for="o in findings(i)" :key="o.code" class="small watch">{{ o.text }} {{ o.advice }}</p>
        <div v-if="opened === i" class="detail">
          <label>
            <span class="field-label">what is done</span>
            <Select
              :value="s.kind"
              :options="kinds"
              :disabled="!canMake"
              class="wide"
              @change="(k) => set(i, 'kind', String(k))"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('for')">
            <span class="field-label">how long</span>
            <input
              class="plain-field"
              :value="s.for"
              placeholder="5–10 min"
              @input="set(i, 'for', value($event))"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('celsius')">
            <span class="field-label">°C</span>
            <input
              class="plain-field"
              inputmode="decimal"
              :value="s.celsius || ''"
              @change="set(i, 'celsius', Number(value($event)) || undefined)"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('stir')">
            <span class="field-label">stir every</span>
            <input
              class="plain-field"
              :value="s.stir"
              placeholder="3 days"
              @input="set(i, 'stir', value($event))"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('vessel')">
            <span class="field-label">in</span>
            <input
              class="plain-field"
              :value="s.vessel"
              placeholder="pot"
              @input="set(i, 'vessel', value($event))"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('mould')">
            <span class="field-label">mould</span>
            <input class="plain-field" :value="s.mould" @input="set(i, 'mould', value($event))" />
          </label>
          <label v-if="of(s.kind)?.sets.includes('pieces')">
            <span class="field-label">pieces</span>
            <input
              class="plain-field"
              inputmode="numeric"
              :value="s.pieces || ''"
              @change="set(i, 'pieces', Number(value($event)) || undefined)"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('by')">
            <span class="field-label">how</span>
            <Select
              :value="s.by ?? 'spoon'"
              :options="byOptions"
              class="wide"
              @change="(k) => set(i, 'by', k as 'drop')"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('to')">
            <span class="field-label">to</span>
            <input
              class="plain-field"
              :value="s.to"
              placeholder="10 l"
              @input="set(i, 'to', value($event))"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('keep')">
            <span class="field-label">what stays out goes to</span>
            <input
              class="plain-field"
              :value="s.keep"
              placeholder="freezer"
              @input="set(i, 'keep', value($event))"
            />
          </label>
          <label v-if="s.kind === 'check'" class="long">
            <span class="field-label">what is asked</span>
            <Select
              :value="s.check ?? ''"
              :options="checks"
              class="wide"
              @change="(k) => set(i, 'check', String(k) || undefined)"
            />
          </label>
          <label v-if="of(s.kind)?.sets.includes('by_weight')" class="tick">
            <input
              type="checkbox"
              :checked="s.by_weight"
              @change="set(i, 'by_weight', ($event.target as HTMLInputElement).checked || undefined)"
            />
            until its weight no longer changes
          </label>
          <label class="long">
            <span class="field-label">{{
              s.kind === 'check' && !s.check ? 'the question' : 'what to mind'
            }}</span>
            <input class="plain-field" :value="s.text" @input="set(i, 'text', value($event))" />
          </label>
          <div v-if="takes(s)" class="long chips" role="group" aria-label="What goes in">
            <button
              v-for="(l, j) in draft.file.value.lines"
              :key="j"
              type="button"
              class="chip"
              :aria-pressed="!!s.lines?.includes(j)"
              :disabled="!canMake"
              @click="draft.change('', (f) => toggleLine(f, i, j))"
            >
              {{ lineName(j) }}<template v-if="!l.material">?</template>
            </button>
          </div>
        </div>
      </li>
    </ol>
    <p v-for="o in left" :key="o.line" class="small watch">{{ o.text }}</p>
    <div v-if="canMake" class="row acts">
      <button class="plain do" type="button" :disabled="ways.isPending.value" @click="ways.mutate()">
        {{ steps.length ? 'other usual steps' : 'take the usual steps' }}
      </button>
      <button class="plain do" type="button" @click="add">add a step</button>
    </div>
    <p v-if="ways.error.value" class="bad" role="alert">{{ sentence(ways.error.value) }}</p>
    <ul v-if="ways.data.value" class="ways" aria-label="Ways of making it">
      <li v-for="w in ways.data.value" :key="w.school">
        <button class="plain way" type="button" @click="take(w)">
          <strong>{{ w.school }}</strong>
          <span class="soft">{{
            w.steps.map((s) => kinds.find((k) => k.value === s.kind)?.label ?? s.kind).join(', ')
          }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ol,
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}

li {
  border-bottom: 1px solid var(--clay-line);
}

li.over:hover {
  box-shadow: inset 0 2px var(--cobalt);
}

.row {
  align-items: baseline;
  display: flex;
  gap: 8px;
}

.acts {
  gap: 22px;
}

.grip {
  color: var(--clay);
  cursor: grab;
}

.n {
  color: var(--ink-soft);
  width: 18px;
}

.name {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 0 10px;
  min-height: 30px;
  padding: 5px 0;
}

.out {
  color: var(--ink-soft);
  font-size: 18px;
  padding: 2px 6px;
}

.detail {
  display: grid;
  gap: 8px 10px;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  padding: 4px 0 12px 40px;
}

.long {
  grid-column: 1 / -1;
}

.tick {
  align-items: center;
  display: flex;
  gap: 8px;
  grid-column: span 2;
}

.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.chip {
  background: none;
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: var(--ink-soft);
  cursor: pointer;
  font: inherit;
  min-height: 28px;
  padding: 1px 8px;
}

.chip[aria-pressed='true'] {
  background: var(--cobalt-wash);
  border-color: var(--cobalt);
  color: var(--ink);
}

.do {
  color: var(--cobalt);
  padding: 6px 0;
  text-decoration: underline;
}

.way {
  display: flex;
  flex-direction: column;
  padding: 8px 6px;
  width: 100%;
}

.way:hover {
  background: var(--slip-raised);
}

.way strong {
  color: var(--cobalt);
}

.watch {
  color: var(--ochre-ink);
  margin: 2px 0 4px 26px;
}
</style>
