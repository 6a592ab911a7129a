<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { grams } from '../../words'

// A batch on paper, for where no screen can stand: what to weigh from which bag, with room
// for what was weighed, and the steps with boxes. It is seen in print alone.
const props = defineProps<{ batch: Schemas['Batch'] }>()
const bags = (l: Schemas['BatchLine']) =>
  l.lots
    .filter((b) => b.suggested_g > 0)
    .map((b) => `${b.code}${l.lots.length > 1 ? ` ${grams(b.suggested_g)}` : ''}`)
    .join(', ')
const heeded = computed(() => props.batch.cautions.filter((c) => c.severity !== 'note'))
const how = (s: Schemas['BatchStep']) =>
  [
    s.lines.map((i) => props.batch.lines[i]?.name).join(', '),
    s.for,
    s.celsius ? `${s.celsius} °C` : '',
    s.vessel ? `in a ${s.vessel}` : '',
    s.check?.question,
  ]
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <article class="only-print">
    <h1>
      {{ batch.name }} <span class="num">{{ batch.code }}</span>
    </h1>
    <table class="rows">
      <thead>
        <tr>
          <th scope="col">What goes in</th>
          <th scope="col" class="right">Weigh out</th>
          <th scope="col" class="right">or scoop</th>
          <th scope="col">From</th>
          <th scope="col">Weighed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in batch.lines" :key="l.line">
          <td><span class="tick-box" />{{ l.name }}<template v-if="l.optional"> (optional)</template></td>
          <td class="right num">{{ l.hand || (l.target_g > 0 ? grams(l.target_g) : l.amount) }}</td>
          <td class="right num">{{ l.weighed_g ? '' : l.scoop }}</td>
          <td class="num">{{ l.unstocked ? 'the tap' : bags(l) }}</td>
          <td class="num blank">{{ l.weighed_g ? grams(l.weighed_g) : '' }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="batch.steps?.length">
      <h2>Steps</h2>
      <ol>
        <li v-for="s in batch.steps" :key="s.step">
          <span class="tick-box" :class="{ done: s.status === 'done' }" /><strong>{{ s.name }}</strong>
          {{ how(s) }}
          <div v-if="s.text">{{ s.text }}</div>
        </li>
      </ol>
    </template>
    <p v-if="batch.method && !batch.steps?.length">{{ batch.method }}</p>
    <template v-if="heeded.length">
      <h2>To mind</h2>
      <p v-for="c in heeded" :key="c.code">{{ c.text }} {{ c.advice }}</p>
    </template>
    <p class="signed">By: ____________________ &nbsp; Day: ____________________</p>
  </article>
</template>

<style scoped>
.blank {
  border-bottom: 1px solid #000;
  min-width: 90px;
}

.signed {
  margin-top: 30px;
}
</style>
