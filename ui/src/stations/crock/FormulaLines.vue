<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import { grams, percent, spread } from '../../words'
import LineQuestion from './LineQuestion.vue'
import { moveLine, removeLine } from './steps'
import type { useDraft } from './useDraft'

const props = defineProps<{ draft: ReturnType<typeof useDraft>; assessment?: Schemas['Assessment'] }>()
const { data: materials } = useMaterials()
const rows = ref<HTMLElement>()

/** What is asked of a line, in its place. */
function questions(i: number) {
  return (props.assessment?.questions ?? []).filter((q) => q.line === i)
}
const asks = (i: number, part: string) => questions(i).some((q) => q.field.endsWith(part))
/** Nothing is worked out of a line that asks how much, or what. */
const worked = (i: number) => {
  const line = props.assessment?.lines[i]
  return line && line.mass_g.value > 0 ? line : undefined
}
/** The first line whose weight is a range: what that is can be asked there. */
const firstSpread = computed(() => props.assessment?.lines.findIndex((l) => spread(l.mass_g)) ?? -1)
/** What else is to be said of a line, in few words. */
function remarks(i: number): string[] {
  const line = props.assessment?.lines[i]
  if (!line) return []
  const said = []
  if (line.taken) said.push(`taken as ${line.taken}`)
  if (line.also) said.push(`also said as ${line.also}`)
  if (line.note) said.push(line.note)
  if (line.celsius) said.push(`at ${line.celsius} °C`)
  if (line.optional) said.push('optional')
  return said
}

function order(i: number) {
  return (props.assessment?.order ?? []).filter(
    (o) => o.line === i && o.step === undefined && o.code !== 'no-step',
  )
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

/** A name that is being typed: an answer that comes meanwhile must not write over it. */
const typing = ref<{ line: number; text: string }>()

function named(i: number, name: string) {
  typing.value = undefined
  set(i, 'material', name)
}

/** Puts what may take a line's place there, and the line where that was. */
function swapIn(i: number, by: Schemas['LineAlternative']) {
  props.draft.change('', (f) => {
    const line = f.lines[i]
    if (!line) return
    const before = { material: line.material, amount: line.amount }
    line.alternatives = [before, ...alternatives(i).filter((a) => a.material !== by.material)]
    line.material = by.material
    line.amount = by.amount
  })
}
const alternatives = (i: number) =>
  props.draft.file.value.lines[i]?.alternatives ?? props.assessment?.lines[i]?.alternatives ?? []

function focus(i: number, part: string) {
  void nextTick(() => rows.value?.querySelector<HTMLInputElement>(`[data-cell="${i}-${part}"]`)?.focus())
}

function move(i: number, by: number) {
  const to = i + by
  if (to < 0 || to >= props.draft.file.value.lines.length) return
  props.draft.change('', (f) => moveLine(f, i, to))
  focus(to, 'amount')
}

function next(i: number) {
  if (i + 1 < props.draft.file.value.lines.length) focus(i + 1, 'amount')
  else document.querySelector<HTMLTextAreaElement>('[name="say"]')?.focus()
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
        :class="{ asks: asks(i, 'amount') }"
        :readonly="!canMake"
        @input="set(i, 'amount', ($event.target as HTMLInputElement).value)"
        @keydown="key($event, i)"
      />
      <input
        class="material"
        :value="typing?.line === i ? typing.text : nameOf(line.material)"
        :data-cell="`${i}-material`"
        :aria-label="`Material of line ${i + 1}`"
        :class="{ asks: asks(i, 'material') }"
        list="material-names"
        :readonly="!canMake"
        @input="typing = { line: i, text: ($event.target as HTMLInputElement).value }"
        @change="named(i, ($event.target as HTMLInputElement).value)"
        @blur="typing = undefined"
        @keydown="key($event, i)"
      />
      <span class="mass">
        <template v-if="worked(i)">
          <span class="num g">{{ grams(worked(i)!.mass_g.value) }}</span>
          <span class="soft spread"
            >{{ spread(worked(i)!.mass_g) }}<AboutThis v-if="i === firstSpread" of="range"
          /></span>
        </template>
        <span v-else-if="assessment?.lines[i]?.open" class="soft spread">left open</span>
      </span>
      <span class="num share">{{ worked(i) ? percent(worked(i)!.share) : '' }}</span>
      <button
        v-if="canMake"
        class="plain out"
        type="button"
        :aria-label="`Take out line ${i + 1}`"
        title="Take this line out"
        @click="draft.change('', (f) => removeLine(f, i))"
      >
        ×
      </button>
      <p v-if="remarks(i).length || alternatives(i).length" class="trouble soft">
        {{ remarks(i).join(' · ') }}
        <template v-for="a in alternatives(i)" :key="a.material">
          or
          <button
            class="plain near"
            type="button"
            :disabled="!canMake"
            :title="`Take ${nameOf(a.material)} in its place`"
            @click="swapIn(i, a)"
          >
            {{ a.amount }} {{ nameOf(a.material) }}
          </button>
        </template>
      </p>
      <LineQuestion
        v-for="q in questions(i)"
        :key="q.code + q.field"
        :question="q"
        :line="line"
        :material-id="assessment?.lines[i]?.material"
        @amount="(a) => set(i, 'amount', a)"
        @material="(m) => set(i, 'material', m)"
      />
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

@media (max-width: 520px) {
  .line {
    grid-template-columns: minmax(90px, 1fr) auto 48px 22px;
  }

  .line .material {
    grid-column: 1 / -1;
    order: -1;
  }
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

.line input.asks {
  border-color: var(--cobalt);
  border-style: dashed;
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
  min-height: 36px; /* as high as it is with its range: nothing moves when that comes */
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
  min-width: 26px;
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
