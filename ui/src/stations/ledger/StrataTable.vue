<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import { grams, money } from '../../words'

// The layers of a cost in figures; each opens to the lots it came from, or says how it was
// reckoned.
defineProps<{
  strata: Schemas['Stratum'][]
  currency: string
  total: string
  atLeast?: boolean
  of: string
}>()
const chosen = defineModel<string>('chosen')
const keyOf = (s: Schemas['Stratum']) => s.part + (s.item ?? '')
const shown = ref(true)
</script>

<template>
  <table class="rows">
    <thead>
      <tr>
        <th scope="col">what</th>
        <th scope="col" class="right">{{ of }}</th>
        <th scope="col" class="right">a tenth dearer<AboutThis of="tenthDearer" /></th>
      </tr>
    </thead>
    <tbody>
      <template v-for="s in [...strata].reverse()" :key="keyOf(s)">
        <tr :class="{ on: chosen === keyOf(s) }">
          <td>
            <button
              class="plain do"
              type="button"
              :aria-expanded="chosen === keyOf(s)"
              @click="chosen = chosen === keyOf(s) ? undefined : keyOf(s)"
            >
              {{ s.name }}
            </button>
            <span v-if="s.grams" class="soft small">
              {{ s.part === 'packaging' ? '' : grams(s.grams) }}
            </span>
          </td>
          <td class="right num">
            <template v-if="s.cost">{{ money(s.cost, currency) }}</template>
            <span v-else class="watch">▲ not known</span>
          </td>
          <td class="right num soft">
            {{ Number(s.tenth_dearer) ? `+ ${money(s.tenth_dearer, currency)}` : '' }}
          </td>
        </tr>
        <tr v-if="chosen === keyOf(s) && shown" class="opened">
          <td colspan="3">
            <p class="small">{{ s.says }}</p>
            <ul v-if="s.lots?.length" class="small">
              <li v-for="l in s.lots" :key="l.lot">
                <RouterLink v-if="s.part === 'materials'" :to="`/shelf/${s.item}`">{{ l.code }}</RouterLink>
                <template v-else>{{ l.code }}</template>:
                {{ s.part === 'packaging' ? l.quantity : grams(l.quantity) }}, {{ money(l.cost, currency) }}
              </li>
            </ul>
          </td>
        </tr>
      </template>
    </tbody>
    <tfoot>
      <tr>
        <th scope="row">{{ atLeast ? 'at least' : 'together' }}</th>
        <td class="right num sum">{{ money(total, currency) }}</td>
        <td />
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
.do {
  color: var(--cobalt);
  margin-right: 8px;
  text-decoration: underline;
}

.opened td {
  background: var(--slip-sunk);
}

.opened p {
  margin: 0;
}

.opened ul {
  margin: 4px 0 0;
  padding-left: 18px;
}

.sum {
  font-size: 18px;
  font-weight: 600;
}

tfoot th {
  text-align: left;
}

.watch {
  color: var(--ochre-ink);
}
</style>
