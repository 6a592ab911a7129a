<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, ProblemError, type Problem } from '../../api/client'
import { progress } from '../../api/live'
import { count, sentence } from '../../words'
import { canMake } from '../../api/session'
import { csv } from '../../parts/table'

// The shelf out as CSV, and in from that or a workbook. A bad row is named, and nothing is taken in
// unless the good rows are asked for.
const client = useQueryClient()
const said = ref('')
const problems = ref<Problem[]>([])
const kept = ref<string | null>(null)
const refused = ref(false)

async function read(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    await send(await textOf(file), 'all')
  } catch (err) {
    refused.value = true
    said.value = sentence(err)
  }
}

/** A file as CSV; the first table of a workbook is read by the server. */
async function textOf(file: File): Promise<string> {
  if (!/\.xlsx$/i.test(file.name)) return file.text()
  const body = new Uint8Array(await file.arrayBuffer())
  const read = await ask(
    api.POST('/api/sheets', {
      body: body as unknown as string,
      bodySerializer: (b) => b as unknown as BodyInit as string,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
  return csv([read.head, ...read.rows])
}

async function send(text: string, take: 'all' | 'good') {
  problems.value = []
  progress.value = undefined
  lines.value = text.split('\n').length - 1
  try {
    const result = await ask(
      api.POST('/api/shelf.csv', {
        params: { query: { take } },
        body: text,
        bodySerializer: (b) => b as string,
        headers: { 'Content-Type': 'text/csv' },
      }),
    )
    refused.value = false
    said.value = `${result.taken} ${result.taken === 1 ? 'lot' : 'lots'} taken in.`
    problems.value = result.refused
    kept.value = null
    void client.invalidateQueries({ queryKey: ['shelf'] })
  } catch (err) {
    refused.value = true
    said.value = sentence(err)
    problems.value = err instanceof ProblemError ? (err.problem.problems ?? []) : []
    kept.value = problems.value.length ? text : null
  } finally {
    lines.value = 0
  }
}
/** How many lines are being taken in; 0 for none. */
const lines = ref(0)
const far = computed(() => (progress.value?.about === 'shelf' ? progress.value : undefined))
</script>

<template>
  <div class="files">
    <a href="/api/shelf.csv" download="shelf.csv">Lots as CSV</a>
    <label v-if="canMake" class="pick">
      Lots from CSV or XLSX
      <input type="file" accept=".csv,.xlsx,text/csv" name="shelf-csv" @change="read" />
    </label>
    <div v-if="lines" class="result" role="status">
      <p>
        Taking in {{ count(lines) }} {{ lines === 1 ? 'line' : 'lines'
        }}<template v-if="far">: {{ count(far.done) }} of {{ count(far.of) }} lots</template>. Nothing is
        taken in unless all of it is.
      </p>
      <progress :value="far?.done" :max="far?.of" />
    </div>
    <div v-else-if="said" class="result" role="status">
      <p>{{ said }}</p>
      <ul>
        <li v-for="(p, i) in problems" :key="i">
          Line {{ p.row }}<template v-if="p.field">, column {{ p.field }}</template
          >: {{ p.detail }}
        </li>
      </ul>
      <p v-if="refused">
        Are its columns called otherwise?
        <RouterLink to="/settings/sheets?what=lots">Say which is what</RouterLink>
      </p>
      <Button v-if="kept" size="small" @click="send(kept, 'good')">Take the good rows</Button>
      <Button size="small" @click="said = ''">Close</Button>
    </div>
  </div>
</template>

<style scoped>
.files {
  display: flex;
  gap: 16px;
  position: relative;
}

.result {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  padding: 12px 16px;
  position: absolute;
  right: 0;
  top: 30px;
  width: 420px;
  z-index: 10;
}

.result ul {
  max-height: 200px;
  overflow: auto;
  padding-left: 18px;
}

.result button {
  margin-right: 8px;
}
</style>
