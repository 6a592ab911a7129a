<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useFormulas } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import { money } from '../../words'
import type { Water } from './useWater'

// This formula beside another school, or an earlier version of itself: the
// differences that matter first.
const props = defineProps<{ id: string; version: number; file: Schemas['FormulaFile']; water: Water }>()

const { data: formulas } = useFormulas()
const other = ref('')

interface Choice {
  key: string
  label: string
  id: string
  version?: number
}
const choices = computed<Choice[]>(() => {
  const versions = Array.from({ length: props.version }, (_, i) => props.version - i).map((v) => ({
    key: `${props.id}@${v}`,
    label: `this one, version ${v}`,
    id: props.id,
    version: v,
  }))
  const rest = (formulas.value ?? []).filter((f) => f.id !== props.id)
  const kin = rest.filter((f) => f.kind === props.file.kind)
  const far = rest.filter((f) => f.kind !== props.file.kind)
  return [
    ...[...kin, ...far].map((f) => ({ key: f.id, label: f.name, id: f.id })),
    ...(props.id === 'new' ? [] : versions),
  ]
})
const chosen = computed(() => choices.value.find((c) => c.key === other.value) ?? choices.value[0])

const { data: stored } = useQuery({
  queryKey: computed(() => ['formulas', chosen.value?.id ?? '', chosen.value?.version ?? 0]),
  meta: { what: 'the other formula' },
  queryFn: () => {
    const { id = '', version } = chosen.value ?? {}
    return ask(api.GET('/api/formulas/{id}', { params: { path: { id }, query: version ? { version } : {} } }))
  },
  enabled: computed(() => !!chosen.value),
})
const mine = useSettled(
  computed(() => props.file),
  150,
)
const pair = computed(() =>
  stored.value && mine.value.lines.length
    ? { a: { ...mine.value, name: mine.value.name || 'Unnamed' }, b: stored.value.file }
    : undefined,
)
const {
  data: sides,
  error,
  refetch,
} = useQuery({
  queryKey: computed(() => ['compare', pair.value, props.water.query.value]),
  queryFn: ({ signal }) =>
    pair.value
      ? ask(
          api.POST('/api/compare', { params: { query: props.water.query.value }, body: pair.value, signal }),
        )
      : null,
  enabled: computed(() => !!pair.value),
  placeholderData: keepPreviousData,
  gcTime: 30_000,
  retry: false,
})

function said(d: Schemas['Difference'], v: number | undefined): string {
  if (v === undefined) return '–'
  if (d.code.startsWith('cost')) return money(String(v), sides.value?.currency ?? 'EUR')
  return v.toLocaleString('en-GB', { minimumFractionDigits: d.places, maximumFractionDigits: d.places })
}
</script>

<template>
  <div>
    <div v-if="chosen" class="panel-form">
      <Choice
        class="wide"
        :model-value="chosen.key"
        label="Beside"
        :options="choices.map((c) => ({ value: c.key, label: c.label }))"
        @chosen="(key) => (other = key)"
      />
    </div>
    <p v-else class="soft">There is no other formula yet.</p>
    <Looking v-if="error" :error="error" @again="refetch()" />
    <template v-else-if="sides && stored">
      <table class="rows sides">
        <thead>
          <tr>
            <th><span class="unseen">reading</span></th>
            <th class="right">{{ sides.a.name }}</th>
            <th class="right">{{ chosen?.version ? `version ${chosen.version}` : sides.b.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="d in sides.differences"
            :key="d.code"
            :class="{ matters: d.matters >= 1, same: d.matters < 0.1 }"
          >
            <td>
              <span v-if="d.matters >= 1" class="sign" title="worth acting on" aria-label="worth acting on"
                >◆</span
              >
              {{ d.name }} <span class="soft small">{{ d.unit }}</span>
            </td>
            <td class="right num">{{ said(d, d.a) }}</td>
            <td class="right num">{{ said(d, d.b) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="small soft">
        ◆ a difference worth acting on. Both in the same water, each at its own strength of use unless you set
        one.
      </p>
      <div class="lines small">
        <ul v-for="side in [sides.a, sides.b]" :key="side.name">
          <li v-for="(l, i) in side.lines" :key="i">
            <span>{{ l.name }}</span> <span class="num">{{ (l.share * 100).toFixed(0) }} %</span>
          </li>
        </ul>
      </div>
    </template>
  </div>
</template>

<style scoped>
.sides th {
  color: var(--ink);
  font: 600 15px var(--slab);
}

.sides .num {
  font-size: 16px;
}

.matters .num {
  font-size: 20px;
  font-weight: 600;
}

.matters .sign {
  color: var(--ochre-ink);
}

.same {
  color: var(--ink-soft);
}

.lines {
  display: grid;
  gap: 20px;
  grid-template-columns: 1fr 1fr;
}

.lines ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.lines li {
  border-top: 1px solid var(--clay-line);
  display: flex;
  justify-content: space-between;
  padding: 2px 0;
}
</style>
