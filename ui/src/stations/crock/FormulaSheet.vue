<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { useStepKinds } from '../../api/queries'
import { grams, life, percent, spread } from '../../words'
import type { FormulaFile } from './useDraft'

// A formula on paper: what goes in with a box to tick, how it is made, how it is used, what
// to mind. It is seen in print alone.
const props = defineProps<{ file: FormulaFile; assessment?: Schemas['Assessment']; version: number }>()
const { data: known } = useStepKinds()
const kind = (s: Schemas['FormulaStep']) => known.value?.kinds.find((k) => k.kind === s.kind)?.name ?? s.kind
const name = (i: number) => props.assessment?.lines[i]?.name || props.file.lines[i]?.material || ''
const goes = (s: Schemas['FormulaStep']) => s.lines?.map(name).join(', ')
const rows = computed(() =>
  props.file.lines.map((l, i) => {
    const known = props.assessment?.lines[i]
    return {
      what: [name(i), l.optional ? '(optional)' : '', l.note ? `, ${l.note}` : ''].filter(Boolean).join(' '),
      written: l.amount,
      grams: known ? [grams(known.mass_g.value), spread(known.mass_g)].filter(Boolean).join(', ') : '',
      share: known ? percent(known.share) : '',
    }
  }),
)
const heeded = computed(() => (props.assessment?.cautions ?? []).filter((c) => c.severity !== 'note'))
const uses = computed(() => props.file.uses?.amount)
</script>

<template>
  <article class="only-print">
    <h1>{{ file.name || 'A formula' }}</h1>
    <p>
      {{ [file.school, version ? `version ${version}` : 'not kept yet'].filter(Boolean).join(', ') }}
    </p>
    <table class="rows">
      <thead>
        <tr>
          <th scope="col">What goes in</th>
          <th scope="col" class="right">As written</th>
          <th scope="col" class="right">Grams</th>
          <th scope="col" class="right">Share</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td><span class="tick-box" />{{ r.what }}</td>
          <td class="right num">{{ r.written }}</td>
          <td class="right num">{{ r.grams }}</td>
          <td class="right num">{{ r.share }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="file.steps?.length">
      <h2>How it is made</h2>
      <ol>
        <li v-for="(s, i) in file.steps" :key="i">
          <span class="tick-box" /><strong>{{ kind(s) }}</strong>
          {{ [goes(s), s.for, s.celsius ? `${s.celsius} °C` : ''].filter(Boolean).join(', ') }}
          <div v-if="s.text">{{ s.text }}</div>
        </li>
      </ol>
    </template>
    <p v-else-if="file.method">{{ file.method }}</p>
    <p v-if="assessment">
      It gives {{ grams(assessment.net_mass_g.value) }}<template v-if="uses">; one use is {{ uses }}</template
      >; it keeps about {{ life(assessment.keeping.days) }}.
    </p>
    <template v-if="heeded.length">
      <h2>To mind</h2>
      <p v-for="c in heeded" :key="c.code">{{ c.text }} {{ c.advice }}</p>
      <p>{{ assessment?.defer }}</p>
    </template>
    <p v-if="file.notes">{{ file.notes }}</p>
  </article>
</template>
