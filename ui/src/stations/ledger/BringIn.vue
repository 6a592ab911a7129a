<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, ProblemError, type Problem, type Schemas } from '../../api/client'
import Choice from '../../parts/Choice.vue'
import { remembered } from '../../parts/remembered'
import { count, counted, sentence } from '../../words'
import { fields, letters, matched, rowsOf, type What } from './bringIn'

// A sheet of somebody's own: its columns are matched, every row is tried, what is bad is
// named by its cell, and nothing is kept before it is asked for. What is long goes in parts,
// and can be stopped.
defineEmits<{ leave: [] }>()
const client = useQueryClient()
const what = ref<What>('sales')
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
const missing = computed(() =>
  fields[what.value].filter((f) => 'needed' in f && f.needed && columns.value[f.id] === undefined),
)

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
    for (let from = 0; from < rows.value.length && !stop; from += PART) {
      const part = rows.value.slice(from, from + PART)
      const result =
        what.value === 'sales'
          ? await ask(api.POST('/api/acts/many', { body: { take, rows: part as Schemas['ActRow'][] } }))
          : await ask(api.POST('/api/outlets/many', { body: { take, rows: part as Schemas['OutletRow'][] } }))
      good += result.taken
      bad.push(...result.refused)
      done.value = Math.min(rows.value.length, from + PART)
    }
    if (take === 'try') tried.value = { good, bad }
    else {
      said.value = `${counted(good, 'row')} taken in${bad.length ? `, ${bad.length} left out` : ''}${stop ? '; stopped there' : ''}.`
      tried.value = bad.length ? { good: 0, bad } : undefined
      if (!bad.length) read.value = undefined
    }
  } catch (e) {
    wrong.value = sentence(e)
    if (e instanceof ProblemError && e.problem.problems) tried.value = { good: 0, bad: e.problem.problems }
  } finally {
    busy.value = ''
    void client.invalidateQueries({ queryKey: ['ledger'] })
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
    <header>
      <h2 id="bring-in">Bring in a sheet</h2>
      <button class="plain do" type="button" @click="$emit('leave')">close</button>
    </header>
    <div class="of-what">
      <Choice
        :model-value="what"
        label="What is in it"
        :options="[
          { value: 'sales', label: 'sales, gifts and returns' },
          { value: 'outlets', label: 'who takes jars' },
        ]"
        @update:model-value="rematch"
      />
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
          v-for="f in fields[what]"
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
        {{ counted(tried.good, 'row') }} can be taken in<template v-if="tried.bad.length"
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
          tried.bad.length ? 'Take the good rows' : 'Take them in'
        }}</Button>
      </div>
    </template>
    <p role="status">{{ said }}</p>
  </section>
</template>

<style scoped>
.in {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  margin-bottom: 18px;
  padding: 14px 18px;
}

header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
  margin-bottom: 8px;
}

.of-what,
.acts {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
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

.do {
  color: var(--cobalt);
  text-decoration: underline;
}

.watch {
  color: var(--ochre-ink);
}
</style>
