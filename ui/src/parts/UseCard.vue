<script setup lang="ts">
import { RouterLink } from 'vue-router'

import type { Schemas } from '../api/client'

// A use card: on what never in front, then how strong, how long, how.
// Its heading stands as deep as the page has it.
defineProps<{ card: Schemas['UseCard']; level?: 2 | 3 }>()
</script>

<template>
  <article class="card">
    <header>
      <component :is="`h${level ?? 3}`" class="task">{{ card.task }}</component>
      <span v-if="card.own" class="mark good">yours</span>
    </header>
    <p v-if="card.not_on.length || card.warned.length" class="not" :class="{ asked: card.warned.length }">
      <strong>Not on</strong> {{ card.not_on.join(', ') }}
      <template v-if="card.warned.length">: you asked about {{ card.warned.join(', ') }}</template>
    </p>
    <p class="num strength">{{ card.strength }}</p>
    <p>{{ card.how }}</p>
    <dl>
      <template v-if="card.leave">
        <dt>leave</dt>
        <dd>{{ card.leave }}</dd>
      </template>
      <template v-if="card.water">
        <dt>water</dt>
        <dd>{{ card.water }}</dd>
      </template>
      <template v-if="card.tool && card.tool !== 'none'">
        <dt>with</dt>
        <dd>{{ card.tool }}</dd>
      </template>
      <dt>rinse</dt>
      <dd>{{ card.rinse ? 'yes' : 'no need' }}</dd>
      <template v-if="card.every_days">
        <dt>every</dt>
        <dd>{{ card.every_days === 1 ? 'day' : `${card.every_days} days` }}</dd>
      </template>
    </dl>
    <p v-if="card.order" class="order">{{ card.order }}</p>
    <p v-if="card.shake" class="small">Shake first.</p>
    <p v-if="card.seen" class="soft small">It works: {{ card.seen }}</p>
    <p v-for="c in card.claims ?? []" :key="c.at" class="order small">
      “{{ c.word }}” promises too much. {{ c.why }} Say: {{ c.instead }}.
    </p>
    <p v-if="card.goods.length" class="small">
      In the pantry:
      <template v-for="(g, i) in card.goods" :key="g.batch"
        ><template v-if="i">, </template><RouterLink :to="`/pantry/${g.batch}`">{{ g.name }}</RouterLink> ({{
          g.left
        }}<template v-if="g.past">, past its date</template>)</template
      >
    </p>
    <slot />
  </article>
</template>

<style scoped>
.task {
  font-size: 17px;
}

.card {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-top: 4px solid var(--clay);
  border-radius: var(--corner);
  break-inside: avoid;
  padding: 10px 14px 12px;
}

header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

p {
  margin: 4px 0;
}

.not {
  color: var(--ochre-ink);
}

.not.asked {
  color: var(--oxblood);
}

.strength {
  font-size: 18px;
}

dl {
  display: grid;
  gap: 0 10px;
  grid-template-columns: auto 1fr;
  margin: 4px 0;
}

dt {
  color: var(--ink-soft);
}

dd {
  margin: 0;
}

.order {
  color: var(--ochre-ink);
}
</style>
