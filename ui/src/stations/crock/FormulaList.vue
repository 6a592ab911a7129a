<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { useFormulas } from '../../api/queries'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { useSingleKeys } from '../../parts/useKeys'
import { fromNow, sentence } from '../../words'

const router = useRouter()
const client = useQueryClient()
const { data: formulas, isPending, error, refetch } = useFormulas()

const byKind = computed(() => {
  const kinds = new Map<string, Schemas['FormulaSummary'][]>()
  for (const f of formulas.value ?? []) kinds.set(f.kind_name, [...(kinds.get(f.kind_name) ?? []), f])
  return [...kinds]
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
      <label v-if="canMake" class="pick">
        Formula file in
        <input type="file" accept=".json,application/json" name="formula-file" @change="read" />
      </label>
      <Button v-if="canMake" size="large" @click="router.push('/crock/start')">From a school</Button>
      <Button v-if="canMake" type="primary" size="large" @click="router.push('/crock/new')"
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
    <section v-for="[kind, list] in byKind" :key="kind">
      <h2>{{ kind }}</h2>
      <ul>
        <li v-for="f in list" :key="f.id">
          <RouterLink :to="`/crock/${f.id}`" class="formula">
            <strong>{{ f.name }}</strong>
            <span class="soft small">{{ f.school || `${f.lines} lines` }}</span>
            <span v-if="f.questions" class="draft small"
              >draft, {{ f.questions }} {{ f.questions === 1 ? 'question' : 'questions' }} open</span
            >
            <span class="soft small">{{ f.last_made ? `made ${fromNow(f.last_made)}` : 'never made' }}</span>
          </RouterLink>
        </li>
      </ul>
    </section>
    <details v-if="putAway?.length" class="away">
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
  columns: 3 280px;
  column-gap: 40px;
  padding: 18px 24px 40px;
}

header {
  align-items: center;
  column-span: all;
  display: flex;
  gap: 20px;
  margin-bottom: 18px;
}

section {
  break-inside: avoid;
  margin-bottom: 26px;
}

section h2 {
  border-bottom: 4px solid var(--clay);
  color: var(--ink-soft);
  font-size: 15px;
  padding-bottom: 4px;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.formula {
  border-bottom: 1px solid var(--clay-line);
  color: inherit;
  display: flex;
  flex-direction: column;
  padding: 9px 4px;
  text-decoration: none;
}

.formula:hover {
  background: var(--slip-raised);
}

.away {
  break-inside: avoid;
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
</style>
