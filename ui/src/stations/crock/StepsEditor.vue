<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Select } from 'ant-design-vue'
import { computed, nextTick, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { useStepKinds } from '../../api/queries'
import { canMake } from '../../api/session'
import { useSettled } from '../../parts/useSettled'
import { goesLast, moveStep, putLast, toggleLine, type FormulaStep } from './steps'
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
/** What a step says of itself beside what goes in. */
type Detail = 'for' | 'celsius' | 'stir' | 'vessel' | 'mould' | 'pieces' | 'to' | 'keep'
const details: { part: Detail; label: string; like?: string; number?: boolean }[] = [
  { part: 'for', label: 'how long', like: '5–10 min' },
  { part: 'celsius', label: '°C', number: true },
  { part: 'stir', label: 'stir every', like: '3 days' },
  { part: 'vessel', label: 'in', like: 'pot' },
  { part: 'mould', label: 'mould' },
  { part: 'pieces', label: 'pieces', number: true },
  { part: 'to', label: 'to', like: '10 l' },
  { part: 'keep', label: 'what stays out goes to', like: 'freezer' },
]
/** A number is taken when it is whole, words as they are typed. */
const listens = (i: number, d: (typeof details)[number]) =>
  d.number
    ? { change: (e: Event) => set(i, d.part, (Number(value(e)) || undefined) as never) }
    : { input: (e: Event) => set(i, d.part, value(e) as never) }
const lineName = (i: number) =>
  props.assessment?.lines[i]?.name || props.draft.file.value.lines[i]?.material || `line ${i + 1}`
const of = (kind: string) => known.value?.kinds.find((k) => k.kind === kind)
const takes = (s: FormulaStep) => of(s.kind)?.takes ?? false
const findings = (i: number) => (props.assessment?.order ?? []).filter((o) => o.step === i)
const left = computed(() => (props.assessment?.order ?? []).filter((o) => o.code === 'no-step'))

/** The ways it is usually made: proposed where it has no steps yet, else when they are asked for. */
const others = ref(false)
const proposing = computed(
  () => canMake.value && props.draft.file.value.lines.length > 0 && (others.value || !steps.value.length),
)
const file = useSettled(props.draft.file, 400)
const { data: ways, error: noWays } = useQuery({
  queryKey: computed(() => ['steps', 'usual', file.value.kind, file.value.method, file.value.lines]),
  queryFn: ({ signal }) =>
    ask(api.POST('/api/steps', { body: { ...file.value, name: file.value.name || 'new' }, signal })),
  enabled: proposing,
  placeholderData: (last) => last,
  retry: false,
})
function take(way: Schemas['WayOfMaking']) {
  props.draft.change('', (f) => {
    f.steps = way.steps
    f.version = 3
  })
  others.value = false
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
        <p v-for="o in findings(i)" :key="o.code" class="small watch">
          {{ o.text }} {{ o.advice }}
          <button
            v-if="canMake && goesLast.has(o.code)"
            class="plain do"
            type="button"
            @click="draft.change('', (f) => putLast(f, o.line, (kind) => of(kind)?.takes ?? false))"
          >
            Move it
          </button>
        </p>
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
          <label v-for="d in details.filter((d) => of(s.kind)?.sets.includes(d.part))" :key="d.part">
            <span class="field-label">{{ d.label }}</span>
            <input
              class="plain-field"
              :value="s[d.part] || ''"
              :placeholder="d.like"
              :inputmode="d.number ? 'decimal' : undefined"
              v-on="listens(i, d)"
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
    <p v-if="!steps.length" class="none">
      No steps yet.
      <template v-if="proposing && ways?.length">Take a way it is made, and change it as you do it:</template>
    </p>
    <ul v-if="proposing && ways?.length" class="ways" aria-label="Ways of making it">
      <li v-for="w in ways" :key="w.school">
        <button class="plain way" type="button" @click="take(w)">
          <strong>{{ w.school }}</strong>
          <span class="soft">{{
            w.steps.map((s) => kinds.find((k) => k.value === s.kind)?.label ?? s.kind).join(', ')
          }}</span>
        </button>
      </li>
    </ul>
    <p v-if="proposing && noWays" class="bad" role="alert">{{ sentence(noWays) }}</p>
    <div v-if="canMake" class="row acts">
      <button class="plain do" type="button" @click="add">add a step</button>
      <button v-if="steps.length" class="plain do" type="button" @click="others = !others">
        {{ others ? 'keep these steps' : 'other usual steps' }}
      </button>
    </div>
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

.none {
  margin: 6px 0 0;
}

.watch {
  color: var(--ochre-ink);
  margin: 2px 0 4px 26px;
}
</style>
