<script setup lang="ts">
import { Button, Select } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { sentence } from '../../words'

import { useKinds } from '../../api/queries'
import { canMake, session } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { useKeys } from '../../parts/useKeys'
import Conflict from './Conflict.vue'
import FormulaLines from './FormulaLines.vue'
import FormulaSheet from './FormulaSheet.vue'
import Panels from './Panels.vue'
import SayIt from './SayIt.vue'
import { chooseFor, moveWords, takeSaid } from './saidGood'
import StepSide from './StepSide.vue'
import StepsEditor from './StepsEditor.vue'
import Strata from './Strata.vue'
import Versions from './Versions.vue'
import { useAssessment } from './useAssessment'
import type { FormulaFile } from './useDraft'
import UseFields from './UseFields.vue'
import { useFormula } from './useFormula'
import { useKeep } from './useKeep'
import { useWater } from './useWater'

const props = defineProps<{ id: string }>()
const { isNew, draft, stored, missing, newer } = useFormula(props.id)
const { file } = draft
const water = useWater()
const { assessment, refused, asked, behind } = useAssessment(file, water.query)
const { save, saveTrouble, conflict, send, keep, hide, copy, bringBack, takeTheirs } = useKeep(
  props.id,
  draft,
)

/** What is written stands whole or not at all: nothing jumps when it comes. */
const ready = computed(() => isNew || !!stored.value || draft.dirty.value)

const { data: kinds } = useKinds()
const kindOptions = computed(() => (kinds.value ?? []).map((k) => ({ value: k.kind, label: k.name })))
const measureOptions = [
  { value: 'us', label: 'US cups' },
  { value: 'metric', label: 'Metric cups' },
  { value: 'imperial', label: 'Imperial cups' },
  { value: 'australian', label: 'Australian cups' },
]

const print = () => window.print()
const older = ref(false) // the older versions are open
/** What a version holds; what it does not have is taken away. */
const lookedAt = (f: FormulaFile) =>
  Object.assign(Object.fromEntries(Object.keys(file.value).map((k) => [k, undefined])), f)
/** Moves grams from one line to its neighbour, as the boundary in the crock was dragged. */
function shift(from: number, to: number, massG: number) {
  const lines = assessment.value?.lines
  const a = lines?.[from]
  const b = lines?.[to]
  if (!a || !b) return
  draft.change(`shift ${from} ${to}`, (f) => {
    const write = (i: number, g: number) => {
      const line = f.lines[i]
      if (line) line.amount = `${Number(g.toPrecision(g >= 1000 ? 4 : 3))} g`
    }
    write(from, a.mass_g.value - massG)
    write(to, b.mass_g.value + massG)
  })
}

useKeys(
  [
    { keys: 'Ctrl Z / Ctrl Y', does: 'undo, redo' },
    { keys: 'Ctrl S', does: 'keep this version' },
    { keys: 'Enter', does: 'in a line: the next line' },
    { keys: 'Alt ↑ ↓', does: 'in a line: move it' },
    { keys: '← → on a boundary', does: 'shift two shares' },
    { keys: 'arrows on a map', does: 'move two amounts' },
  ],
  (e) => {
    if (!e.ctrlKey && !e.metaKey) return
    const key = e.key.toLowerCase()
    if (key === 's') keep()
    else if (key === 'z' && e.shiftKey) draft.redo()
    else if (key === 'z') draft.undo()
    else if (key === 'y') draft.redo()
    else return
    e.preventDefault()
  },
)
</script>

<template>
  <p v-if="missing && !stored && !isNew" class="gone">
    {{ sentence(missing) }} <RouterLink to="/crock">Back to the formulas</RouterLink>
  </p>
  <div v-else class="crock no-print">
    <section class="written">
      <h1 class="unseen">{{ file.name || 'A new formula' }}</h1>
      <header>
        <input
          class="name"
          :value="file.name"
          placeholder="Name this formula"
          aria-label="Name"
          :readonly="!canMake"
          @input="draft.change('name', (f) => (f.name = ($event.target as HTMLInputElement).value))"
        />
        <div class="row">
          <Choice
            class="kind"
            :model-value="file.kind ?? 'other'"
            label="Kind of good"
            unseen
            :options="kindOptions"
            @chosen="(kind) => draft.change('', (f) => (f.kind = kind))"
          />
          <label>
            <span class="unseen">Cups and spoons</span>
            <Select
              :value="file.measures ?? session?.workshop.measures"
              :options="measureOptions"
              class="measures"
              @change="(v) => draft.change('', (f) => (f.measures = v as 'us'))"
            />
          </label>
        </div>
        <div v-if="!isNew" class="row acts" role="group" aria-label="What else can be done with it">
          <Button size="small" :href="`/api/formulas/${id}/file`" :download="`${file.name}.formula.json`"
            >As file</Button
          >
          <Button size="small" @click="print">Print</Button>
          <template v-if="canMake">
            <Button size="small" @click="copy.mutate()">Copy</Button>
            <Button v-if="!stored?.put_away" size="small" @click="hide.mutate()">Put away</Button>
          </template>
        </div>
      </header>

      <Looking v-if="!ready" pending />
      <template v-else>
        <FormulaLines :draft="draft" :assessment="assessment" />
        <SayIt
          v-if="canMake"
          :lines="file.lines"
          @said="(said) => draft.change('', (f) => takeSaid(f, said))"
          @move="(text, to) => draft.change('', (f) => moveWords(f, text, to))"
          @choose="(i, name) => draft.change('', (f) => chooseFor(f, i, name))"
          @back="draft.undo()"
        />

        <UseFields :draft="draft" :assessment="assessment" />
        <details v-if="file.said" class="method">
          <summary>As it was said</summary>
          <p class="said-as small">{{ file.said }}</p>
        </details>
        <section class="method" aria-labelledby="how-made">
          <h2 id="how-made">How it is made</h2>
          <StepsEditor :draft="draft" :assessment="assessment" />
          <textarea
            v-if="canMake || file.method"
            :value="file.method ?? ''"
            rows="3"
            aria-label="How it is made"
            placeholder="What to sieve, what to wait for, what to look for."
            @input="draft.change('method', (f) => (f.method = ($event.target as HTMLTextAreaElement).value))"
          />
        </section>

        <footer v-if="canMake" class="row">
          <Button type="primary" :disabled="!draft.dirty.value" :loading="save.isPending.value" @click="keep">
            {{ isNew ? 'Keep this formula' : `Keep as version ${draft.base.value + 1}` }}
          </Button>
          <span v-if="asked" class="asked small">
            <span class="num">{{ asked }}</span> {{ asked === 1 ? 'question' : 'questions' }} open: it is kept
            as a draft
          </span>
          <Button :disabled="!draft.canUndo.value" title="Ctrl Z" @click="draft.undo()">Undo</Button>
          <Button :disabled="!draft.canRedo.value" title="Ctrl Y" @click="draft.redo()">Redo</Button>
          <span class="soft small state" role="status">
            <template v-if="isNew">not kept yet</template>
            <template v-else-if="draft.dirty.value">changed since version {{ draft.base.value }}</template>
            <template v-else>version {{ draft.base.value }}</template>
          </span>
        </footer>
        <p v-if="stored?.put_away" class="watch" role="status">
          It was put away: it stands in no list.
          <button v-if="canMake" class="plain do" type="button" @click="bringBack.mutate()">
            Bring it back
          </button>
        </p>
        <p v-if="draft.full.value" class="bad" role="alert">
          This browser keeps no more: what is written here is lost when the page is left. Keep this version.
        </p>
        <p v-if="copy.error.value" class="bad" role="alert">{{ sentence(copy.error.value) }}</p>
        <details v-if="!isNew && draft.base.value > 1" class="method" @toggle="older = !older">
          <summary>Older versions</summary>
          <Versions
            v-if="older"
            :id="id"
            :shown="stored?.version ?? draft.base.value"
            @look="(f) => draft.change('', (now) => Object.assign(now, lookedAt(f)))"
          />
        </details>
        <p v-if="saveTrouble" class="bad" role="alert">{{ saveTrouble }}</p>
        <p v-if="newer && !conflict" class="watch small">
          {{ stored?.by }} kept version {{ stored?.version }} meanwhile. Keeping yours will show both.
        </p>
        <Conflict
          v-if="conflict"
          :problem="conflict"
          @mine="send(conflict.current?.version ?? draft.base.value)"
          @theirs="takeTheirs"
        />
      </template>
    </section>

    <section class="section" aria-label="The crock in section">
      <Strata :assessment="assessment" :frozen="!canMake" @shift="shift" />
      <StepSide v-if="file.steps?.length" :steps="file.steps" />
    </section>

    <Panels
      :id="id"
      :draft="draft"
      :assessment="assessment"
      :water="water"
      :trouble="refused ? sentence(refused) : ''"
      :behind="behind"
      @keep="keep"
    />
  </div>
  <FormulaSheet v-if="stored || isNew" :file="file" :assessment="assessment" :version="draft.base.value" />
</template>

<style scoped>
.crock {
  display: grid;
  grid-template-columns: minmax(420px, 1.2fr) minmax(210px, 0.62fr) minmax(370px, 1.02fr);
  height: 100%;
}

.written {
  min-width: 0;
  overflow: auto;
  padding: 16px 20px 40px;
}

.section {
  background: var(--slip-sunk);
  border-left: 1px solid var(--clay-line);
  border-right: 1px solid var(--clay-line);
  display: flex;
  flex-direction: column;
  min-width: 0;
  padding: 14px 10px;
}

.section :deep(figure) {
  flex: 1;
  min-height: 280px;
}

.said-as {
  margin: 4px 0 0;
  max-height: 220px;
  overflow: auto;
  white-space: pre-wrap;
}

.name {
  background: none;
  border: 0;
  border-bottom: 1px solid transparent;
  color: inherit;
  font: 600 30px var(--slab);
  padding: 0;
  width: 100%;
}

.name:hover,
.name:focus {
  border-bottom-color: var(--clay);
  outline: 0;
}

.row {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}

header .row {
  margin: 6px 0 10px;
}

.acts {
  gap: 6px;
}

.kind {
  width: 160px;
}

.measures {
  width: 130px;
}

textarea {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: inherit;
  padding: 6px 8px;
}

textarea {
  margin-top: 6px;
  resize: vertical;
  width: 100%;
}

.method {
  margin: 14px 0;
}

.method h2 {
  border-bottom: 1px solid var(--clay-line);
  padding-bottom: 3px;
}

summary {
  color: var(--cobalt);
  cursor: pointer;
}

.do {
  color: var(--cobalt);
  padding: 6px 0;
  text-decoration: underline;
}

.watch {
  color: var(--ochre-ink);
}

.asked {
  color: var(--cobalt);
}

.gone {
  padding: 40px;
}

@media (max-width: 1100px) {
  .crock {
    display: block;
    overflow: auto;
  }

  .written {
    overflow: visible;
  }
}
</style>
