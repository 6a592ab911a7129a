<script setup lang="ts">
import type { Schemas } from '../api/client'
import { day } from '../words'
import Pictograms from './Pictograms.vue'
import UseCard from './UseCard.vue'

// What a customer is told of a good: what its label says, and more.
defineProps<{ page: Schemas['JarPage'] }>()
const signals = { danger: 'Danger', warning: 'Warning', '': '' } as const
</script>

<template>
  <article class="sheet">
    <header>
      <h1>{{ page.name }}</h1>
      <p class="soft">
        {{ page.kind_name }}<template v-if="page.net">, {{ page.net }}</template> · {{ page.code }}
      </p>
      <p>
        Best before <strong class="num">{{ day(page.best_before) }}</strong>
        <span v-if="page.past" class="mark stop">past that day</span>
        <span class="soft">, made {{ day(page.made) }}</span>
      </p>
    </header>
    <section v-if="page.statements.length || page.unknown" class="hazard">
      <div class="signal">
        <Pictograms v-if="page.pictograms.length" :codes="page.pictograms" />
        <strong v-if="signals[page.signal_word]" class="num">{{ signals[page.signal_word] }}</strong>
      </div>
      <p v-for="s in page.statements" :key="s.code">
        <strong>{{ s.text }}</strong>
      </p>
      <p v-for="s in page.precautions" :key="s.code">{{ s.text }}</p>
      <p v-if="page.unknown">{{ page.unknown }}</p>
    </section>
    <p v-if="page.not_on?.length" class="not"><strong>Not on</strong> {{ page.not_on.join(', ') }}</p>
    <p v-for="e in page.extra ?? []" :key="e">{{ e }}</p>
    <p v-if="page.use"><strong>Use</strong> {{ page.use }}</p>
    <slot name="water" />
    <section v-if="page.doses.length">
      <h2>How much</h2>
      <table class="rows">
        <tbody>
          <tr v-for="d in page.doses" :key="d.where">
            <td>
              {{ d.where }}
              <div v-if="d.says" class="small">{{ d.says }}</div>
            </td>
            <td class="right num much">{{ d.much }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section v-if="page.cards.length">
      <h2>What for, and how</h2>
      <div class="cards">
        <UseCard v-for="c in page.cards" :key="c.id" :card="c" />
      </div>
    </section>
    <p v-if="page.ingredients" class="small">{{ page.ingredients }}</p>
    <footer>
      <p>
        Made by <strong>{{ page.workshop }}</strong><template v-if="page.address"
          >, {{ page.address }}</template
        >
      </p>
      <p v-if="page.contact">Ask: {{ page.contact }}</p>
      <p class="soft small">{{ page.notice }}</p>
    </footer>
  </article>
</template>

<style scoped>
.sheet {
  max-width: 760px;
}

p {
  margin: 5px 0;
}

h2 {
  margin: 16px 0 6px;
}

.hazard {
  border: 2px solid var(--oxblood);
  border-radius: var(--corner);
  margin: 10px 0;
  padding: 8px 12px;
}

.signal {
  align-items: center;
  display: flex;
  font-size: 22px;
  gap: 12px;
}

.not {
  color: var(--ochre-ink);
  font-size: 17px;
}

.much {
  font-size: 19px;
  white-space: nowrap;
}

.cards {
  display: grid;
  gap: 12px;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
}

footer {
  border-top: 1px solid var(--clay-line);
  margin-top: 16px;
  padding-top: 8px;
}

/* One page: what is most needed of it. */
@media print {
  .sheet {
    font-size: 11px;
    max-width: none;
  }

  p {
    margin: 3px 0;
  }

  h2 {
    font-size: 15px;
    margin: 8px 0 3px;
  }

  .much {
    font-size: 13px;
  }

  .cards {
    grid-template-columns: 1fr 1fr 1fr;
  }

  .cards > :nth-child(n + 4) {
    display: none;
  }
}
</style>
