<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask, ProblemError, type Problem, type Schemas } from '../../api/client'
import Choice from '../../parts/Choice.vue'
import { remembered } from '../../parts/remembered'
import { count, counted, sentence } from '../../words'
import { fields, isWhat, kinds, letters, matched, parted, rowsOf, type Field, type What } from './bringIn'

// A sheet of somebody's own: its columns are matched, every row is tried, what is bad is
// named by its cell, and nothing is kept before it is asked for. What is long goes in parts,
// and can be stopped.
const client = useQueryClient()
const asked = useRoute().query.what
const what = ref<What>(isWhat(asked) ? asked : 'formulas')
const one = computed(() => kinds.find((k) => k.value === what.value)?.one ?? 'row')
const before = remembered<Record<string, Record<string, string>>>('ledger.columns', {})
const read = ref<Schemas['SheetRead']>()
const columns = ref<Record<string, number>>({})
const wrong = ref('')
const tried = ref<{ good: number; bad: Problem[] }>()
const done = ref(0)
const busy = ref('')
const said = ref('')
let stop = false

const PART = 250
const rows = computed(() => (read.value ? rowsOf(read.value, columns.value) : []))
const list = computed<Field[]>(() => fields[what.value])
const missing = computed(() => list.value.filter((f) => f.needed && columns.value[f.id] === undefined))

async function open(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  wrong.value = said.value = ''
  tried.value = read.value = undefined
  try {
    const body = new Uint8Array(await file.arrayBuffer())
    read.value = await ask(
      api.POST('/api/sheets', {
        body: body as unknown as string,
        bodySerializer: (b) => b as unknown as BodyInit as string,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    columns.value = matched(what.value, read.value.head, before.value[what.value])
  } catch (err) {
    wrong.value = sentence(err)
  }
}
function rematch(to: What) {
  what.value = to
  tried.value = undefined
  if (read.value) columns.value = matched(to, read.value.head, before.value[to])
}
function setColumn(id: string, at: number) {
  const rest = Object.fromEntries(Object.entries(columns.value).filter(([f]) => f !== id))
  const next = at < 0 ? rest : { ...rest, [id]: at }
  columns.value = next
  tried.value = undefined
  const head = read.value?.head ?? []
  before.value = {
    ...before.value,
    [what.value]: Object.fromEntries(Object.entries(next).map(([f, c]) => [f, head[c] ?? ''])),
  }
}

async function send(take: Schemas['Taking']) {
  busy.value = take
  stop = false
  done.value = 0
  wrong.value = said.value = ''
  const bad: Problem[] = []
  let good = 0
  try {
    for (const part of parted(what.value, rows.value, PART)) {
      if (stop) break
      const result = await taken(take, part)
      good += result.taken
      bad.push(...result.refused)
      done.value += part.length
    }
    if (take === 'try') tried.value = { good, bad }
    else {
      said.value = `${counted(good, one.value)} taken in${bad.length ? `, ${bad.length} left out` : ''}${stop ? '; stopped there' : ''}.`
      tried.value = bad.length ? { good: 0, bad } : undefined
      if (!bad.length) read.value = undefined
    }
  } catch (e) {
    wrong.value = sentence(e)
    if (e instanceof ProblemError && e.problem.problems) tried.value = { good: 0, bad: e.problem.problems }
  } finally {
    busy.value = ''
    if (take !== 'try') void client.invalidateQueries()
  }
}
/** What became of a part of the rows. */
function taken(take: Schemas['Taking'], part: unknown[]) {
  const body = { take, rows: part as never[] }
  switch (what.value) {
    case 'sales':
      return ask(api.POST('/api/acts/many', { body }))
    case 'outlets':
      return ask(api.POST('/api/outlets/many', { body }))
    case 'jars':
      return ask(api.POST('/api/jars/many', { body }))
    case 'orders':
      return ask(api.POST('/api/orders/many', { body }))
    case 'lots':
      return ask(api.POST('/api/lots/many', { body }))
    case 'materials':
      return ask(api.POST('/api/materials/many', { body }))
    case 'formulas':
      return ask(api.POST('/api/formulas/many', { body }))
  }
}
/** The cell of a problem: its column by the field, its line. */
function cell(p: Problem) {
  const id = (p.field ?? '')
    .replace(/^lines\[0\]\.(count|price)$/, (_, f: string) => (f === 'count' ? 'jars' : f))
    .replace(/^at$/, 'day')
  const at = columns.value[id]
  return at === undefined ? `Line ${p.row}` : `${letters(at)}${p.row}`
}
</script>

<template>
  <section class="in" aria-labelledby="bring-in">
    <h2 id="bring-in">Bring in a sheet</h2>
    <p class="soft">
      A table of your own, CSV or XLSX: say which column is what. It is tried first, each bad cell is named,
      and nothing is kept before you ask for it.
    </p>
    <div class="of-what">
      <Choice :model-value="what" label="What is in it" :options="[...kinds]" @update:model-value="rematch" />
      <label class="pick">
        Choose a file, CSV or XLSX
        <input type="file" accept=".csv,.xlsx,text/csv" name="sheet" @change="open" />
      </label>
    </div>
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <template v-if="read">
      <p class="soft small">
        {{ counted(read.rows.length, 'row')
        }}<template v-if="read.sheet">, of the sheet {{ read.sheet }}</template
        >. Which column is what?
      </p>
      <div class="columns">
        <Choice
          v-for="f in list"
          :key="f.id"
          :model-value="columns[f.id] ?? -1"
          :label="f.label"
          :options="[
            { value: -1, label: 'none' },
            ...read.head.map((h, i) => ({ value: i, label: `${letters(i)} ${h}` })),
          ]"
          @update:model-value="setColumn(f.id, $event)"
        />
      </div>
      <div class="scroll">
        <table class="rows first">
          <thead>
            <tr>
              <th v-for="(h, i) in read.head" :key="i" scope="col">{{ letters(i) }} {{ h }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(cells, i) in read.rows.slice(0, 4)" :key="i">
              <td v-for="c in read.head.length" :key="c">{{ cells[c - 1] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="missing.length" class="watch">
        ▲ Say which column is: {{ missing.map((f) => f.label).join(', ') }}.
      </p>
      <div class="acts">
        <Button
          type="primary"
          :disabled="missing.length > 0 || !!busy"
          :loading="busy === 'try'"
          @click="send('try')"
          >Try it, keeping nothing</Button
        >
        <Button v-if="busy" @click="stop = true">Stop</Button>
      </div>
      <progress
        v-if="busy"
        :value="done"
        :max="rows.length"
        :aria-label="`${count(done)} of ${count(rows.length)} rows`"
      />
    </template>
    <template v-if="tried">
      <p role="status">
        {{ counted(tried.good, one) }} can be taken in<template v-if="tried.bad.length"
          >, {{ tried.bad.length }} cannot</template
        >.
      </p>
      <ul class="rows-bad">
        <li v-for="(p, i) in tried.bad.slice(0, 200)" :key="i">
          <strong>{{ cell(p) }}</strong>: {{ p.detail }}
        </li>
      </ul>
      <div v-if="tried.good" class="acts">
        <Button :disabled="!!busy" @click="send('good')">{{
          tried.bad.length ? 'Take the good ones' : 'Take them in'
        }}</Button>
      </div>
    </template>
    <p role="status">{{ said }}</p>
  </section>
</template>

<style scoped>
.in {
  max-width: 900px;
}

.of-what,
.acts {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
}

.in p[role='status'],
.in > .soft.small {
  margin-top: 12px;
}

.first {
  margin: 4px 0 14px;
}

.columns {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  margin: 8px 0;
}

.rows-bad {
  max-height: 240px;
  overflow: auto;
  padding-left: 18px;
}

progress {
  display: block;
  margin-top: 8px;
  width: 100%;
}

.watch {
  color: var(--ochre-ink);
}
</style>
