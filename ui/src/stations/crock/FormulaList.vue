<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Checkbox } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { useFormulas } from '../../api/queries'
import { canMake } from '../../api/session'
import ListHead from '../../parts/ListHead.vue'
import Looking from '../../parts/Looking.vue'
import SortedBy from '../../parts/SortedBy.vue'
import { remembered } from '../../parts/remembered'
import { holds, type Format } from '../../parts/table'
import { useSingleKeys } from '../../parts/useKeys'
import { takeAlong } from '../../takeAlong'
import { counted, day, fromNow, sentence } from '../../words'

type Formula = Schemas['FormulaSummary']

const router = useRouter()
const client = useQueryClient()
const { data: formulas, isPending, error, refetch } = useFormulas()

// What is looked for, and how it stands; remembered by this browser.
const wanted = ref('')
const view = remembered('formulas', { kind: '', state: '', by: 'kind' })
const states = [
  { value: '', label: 'all' },
  { value: 'draft', label: 'drafts' },
  { value: 'never', label: 'never made' },
  { value: 'made', label: 'made before' },
]
const orders = [
  { value: 'kind', label: 'by kind' },
  { value: 'name', label: 'by name' },
  { value: 'made', label: 'made last first' },
  { value: 'changed', label: 'changed last first' },
]
const kinds = computed(() => [
  { value: '', label: 'all kinds' },
  ...[...new Map((formulas.value ?? []).map((f) => [f.kind, f.kind_name]))].map(([value, label]) => ({
    value,
    label,
  })),
])
const inState = (f: Formula) => {
  if (view.value.state === 'draft') return f.questions > 0
  if (view.value.state === 'never') return !f.last_made
  return view.value.state === 'made' ? !!f.last_made : true
}
const shown = computed(() => {
  const found = (formulas.value ?? []).filter(
    (f) =>
      (!view.value.kind || f.kind === view.value.kind) &&
      inState(f) &&
      holds(`${f.name} ${f.school ?? ''} ${f.kind_name}`, wanted.value),
  )
  const last = (f: Formula) => (view.value.by === 'made' ? (f.last_made ?? '') : f.changed)
  if (view.value.by === 'kind') return found
  if (view.value.by === 'name') return found.toSorted((a, b) => a.name.localeCompare(b.name))
  return found.toSorted((a, b) => last(b).localeCompare(last(a)))
})
/** In the order of the kinds with a heading for each, or all as one. */
const groups = computed(() => {
  if (view.value.by !== 'kind') return shown.value.length ? [['', shown.value] as const] : []
  const by = new Map<string, Formula[]>()
  for (const f of shown.value) by.set(f.kind_name, [...(by.get(f.kind_name) ?? []), f])
  return [...by]
})
function all() {
  wanted.value = ''
  Object.assign(view.value, { kind: '', state: '' })
}

function along(as: Format) {
  const rows = shown.value.map((f) => [
    f.name,
    f.kind_name,
    f.school,
    f.version,
    f.lines,
    f.questions,
    f.last_made?.slice(0, 10),
    f.changed.slice(0, 10),
  ])
  const head = ['name', 'kind', 'school', 'version', 'lines', 'questions', 'last made', 'changed']
  void takeAlong(as, { file: 'formulas', head, rows })
}

// Many for one act.
const choosing = ref(false)
const chosen = ref(new Set<string>())
function choose(id: string, on: boolean) {
  const next = new Set(chosen.value)
  if (on) next.add(id)
  else next.delete(id)
  chosen.value = next
}
const putAwayAll = useMutation({
  mutationFn: async (ids: string[]) => {
    for (const id of ids) await ask(api.DELETE('/api/formulas/{id}', { params: { path: { id } } }))
    return ids
  },
  onSettled: () => client.invalidateQueries({ queryKey: ['formulas'] }),
  onSuccess: () => {
    chosen.value = new Set()
    choosing.value = false
  },
})
const bringAllBack = useMutation({
  mutationFn: async (ids: string[]) => {
    for (const id of ids) await ask(api.POST('/api/formulas/{id}/bring-back', { params: { path: { id } } }))
  },
  onSettled: () => client.invalidateQueries({ queryKey: ['formulas'] }),
  onSuccess: () => putAwayAll.reset(),
})

const take = useMutation({
  mutationFn: async (file: File) => {
    let body: Schemas['FormulaFile']
    try {
      body = JSON.parse(await file.text()) as Schemas['FormulaFile']
    } catch {
      throw new Error('That file is no formula: it cannot be read as JSON.')
    }
    return ask(api.POST('/api/formulas', { body }))
  },
  onSuccess: (f) => {
    void client.invalidateQueries({ queryKey: ['formulas'] })
    void router.push(`/crock/${f.id}`)
  },
})

const { data: putAway } = useQuery({
  queryKey: ['formulas', 'list', 'put away'],
  meta: { what: 'what was put away' },
  queryFn: () => ask(api.GET('/api/formulas', { params: { query: { put_away: true } } })),
})
const bringBack = useMutation({
  mutationFn: (id: string) => ask(api.POST('/api/formulas/{id}/bring-back', { params: { path: { id } } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['formulas'] }),
})

function read(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) take.mutate(file)
}

useSingleKeys([{ keys: 'n', does: 'a new formula' }], { n: () => void router.push('/crock/new') })
</script>

<template>
  <div class="formulas">
    <header>
      <h1>Crock</h1>
      <span class="spring" />
      <label v-if="canMake" class="pick no-print">
        Formula file in
        <input type="file" accept=".json,application/json" name="formula-file" @change="read" />
      </label>
      <Button v-if="canMake" class="no-print" size="large" @click="router.push('/crock/start')"
        >From a school</Button
      >
      <Button v-if="canMake" class="no-print" type="primary" size="large" @click="router.push('/crock/new')"
        >New formula</Button
      >
    </header>
    <p v-if="take.isError.value" class="bad" role="alert">
      {{ sentence(take.error.value) }}
      <template v-if="take.error.value instanceof ProblemError && take.error.value.problem.field">
        ({{ take.error.value.problem.field }})
      </template>
    </p>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="formulas?.length === 0">
      No formula yet. <RouterLink to="/crock/start">Make a first batch</RouterLink> from one that comes with
      Keen Crock, or write your own the way you would say it:
      <RouterLink to="/crock/new">2 cups soap flakes, 1 cup washing soda, 1 cup borax</RouterLink>.
    </p>
    <ListHead
      v-if="formulas?.length"
      v-model="wanted"
      what="formula"
      placeholder="name, school, kind"
      :total="formulas.length"
      :shown="shown.length"
      printed
      @all="all"
      @take="along"
    >
      <SortedBy v-model="view.kind" label="Which kind" :options="kinds" />
      <SortedBy v-model="view.state" label="Which state" :options="states" />
      <SortedBy v-model="view.by" label="In which order" :options="orders" />
      <template #acts>
        <Button v-if="canMake && !choosing" @click="choosing = true">Choose several</Button>
      </template>
    </ListHead>
    <div v-if="choosing" class="many no-print" role="group" aria-label="What is done with those chosen">
      <strong>{{ counted(chosen.size, 'formula') }} chosen</strong>
      <Button @click="chosen = new Set(shown.map((f) => f.id))">All {{ shown.length }} shown</Button>
      <Button
        :disabled="!chosen.size"
        :loading="putAwayAll.isPending.value"
        @click="putAwayAll.mutate([...chosen])"
        >Put away</Button
      >
      <Button @click="((choosing = false), (chosen = new Set()))">Done</Button>
    </div>
    <p v-if="putAwayAll.data.value" class="soft no-print" role="status">
      {{ counted(putAwayAll.data.value.length, 'formula') }} put away.
      <button type="button" class="plain do" @click="bringAllBack.mutate(putAwayAll.data.value ?? [])">
        Bring them back
      </button>
    </p>
    <p v-if="putAwayAll.error.value" class="bad" role="alert">{{ sentence(putAwayAll.error.value) }}</p>
    <p v-if="formulas?.length && !shown.length">
      None of them is like that. <button type="button" class="plain do" @click="all">Show all</button>
    </p>
    <div class="columns">
      <section v-for="[kind, list] in groups" :key="kind">
        <h2 v-if="kind">{{ kind }}</h2>
        <ul>
          <li v-for="f in list" :key="f.id">
            <Checkbox
              v-if="choosing"
              :checked="chosen.has(f.id)"
              :aria-label="`Choose ${f.name}`"
              @change="(e) => choose(f.id, e.target.checked)"
            />
            <RouterLink :to="`/crock/${f.id}`" class="formula">
              <strong>{{ f.name }}</strong>
              <span class="soft small">{{ f.school || `${f.lines} lines` }}</span>
              <span v-if="f.questions" class="draft small"
                >draft, {{ f.questions }} {{ f.questions === 1 ? 'question' : 'questions' }} open</span
              >
              <span class="soft small" :title="day(f.last_made)">{{
                f.last_made ? `made ${fromNow(f.last_made)}` : 'never made'
              }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
    </div>
    <details v-if="putAway?.length" class="away no-print">
      <summary>Put away: {{ putAway.length }}</summary>
      <ul>
        <li v-for="f in putAway" :key="f.id" class="small">
          <RouterLink :to="`/crock/${f.id}`">{{ f.name }}</RouterLink>
          <button v-if="canMake" type="button" class="plain do" @click="bringBack.mutate(f.id)">
            bring it back
          </button>
        </li>
      </ul>
    </details>
    <p v-if="bringBack.error.value" class="bad" role="alert">{{ sentence(bringBack.error.value) }}</p>
  </div>
</template>

<style scoped>
.formulas {
  padding: 18px 24px 40px;
}

header {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 20px;
  margin-bottom: 14px;
}

.many {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  margin-bottom: 16px;
}

.many {
  background: var(--cobalt-wash);
  padding: 8px 12px;
}

.columns {
  column-gap: 40px;
  columns: 3 280px;
}

section {
  margin-bottom: 26px;
}

section h2 {
  border-bottom: 4px solid var(--clay);
  break-after: avoid;
  color: var(--ink-soft);
  font-size: 15px;
  padding-bottom: 4px;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.columns li {
  align-items: center;
  border-bottom: 1px solid var(--clay-line);
  break-inside: avoid;
  display: flex;
  gap: 12px;
}

.formula {
  color: inherit;
  display: flex;
  flex: 1;
  flex-direction: column;
  padding: 9px 4px;
  text-decoration: none;
}

.formula:hover {
  background: var(--slip-raised);
}

.away summary,
.do {
  color: var(--cobalt);
  cursor: pointer;
}

.away li {
  display: flex;
  gap: 14px;
  padding: 4px 0;
}

.do {
  text-decoration: underline;
}

.draft {
  color: var(--cobalt);
}

.formula strong {
  color: var(--cobalt);
  font-family: var(--slab);
  font-size: 20px;
}

@media print {
  .columns {
    columns: auto;
  }
}
</style>
