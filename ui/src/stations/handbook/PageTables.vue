<script setup lang="ts">
import type { Schemas } from '../../api/client'

// Tables of a page, with the source of each row where it has one; of all of them at once where it
// is the same.
defineProps<{ tables: Schemas['HandbookTable'][] }>()
function sourceOfAll(t: Schemas['HandbookTable']) {
  const first = t.rows[0]?.source
  return first && t.rows.every((r) => r.source === first) ? first : ''
}
</script>

<template>
  <section v-for="t in tables" :key="t.title">
    <h3>{{ t.title }}</h3>
    <p v-if="sourceOfAll(t)" class="soft small source">From: {{ sourceOfAll(t) }}.</p>
    <table class="rows">
      <thead>
        <tr>
          <th v-for="c in t.columns" :key="c" scope="col">{{ c }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in t.rows" :key="i">
          <td v-for="(c, k) in r.cells" :key="k" :class="{ nothing: !c }">
            <span v-if="k" class="label soft">{{ t.columns[k] }}: </span>
            <RouterLink v-if="k === 0 && r.to" :to="r.to">{{ c }}</RouterLink>
            <template v-else>{{ c }}</template>
            <div v-if="k === 0 && r.source && !sourceOfAll(t)" class="soft small source">{{ r.source }}</div>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h3 {
  margin: 20px 0 4px;
}

td {
  vertical-align: top;
}

td .source {
  max-width: 36ch;
}

p.source {
  margin: 0 0 4px;
}

.label {
  display: none;
}

@media (max-width: 560px) {
  table,
  tbody,
  tr,
  td {
    display: block;
  }

  thead,
  .nothing {
    display: none;
  }

  tr {
    border-bottom: 1px solid var(--clay-line);
    padding: 6px 0;
  }

  td {
    border: 0;
    padding: 1px 0;
  }

  td:first-child {
    font-weight: 600;
  }

  .label {
    display: inline;
  }
}
</style>
