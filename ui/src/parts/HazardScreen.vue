<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../api/client'
import Pictograms from './Pictograms.vue'
import { percent } from '../words'

// What a label would have to tell of, and why: a screen, not a classification.
const props = defineProps<{ hazard: Schemas['Hazard'] }>()
const words = { danger: 'Danger', warning: 'Warning', '': 'No signal word' } as const
const signal = computed(() => words[props.hazard.signal_word])
const bare = computed(() => props.hazard.statements.length === 0)
</script>

<template>
  <section class="screen" aria-label="Hazard screen">
    <header>
      <strong class="signal num" :class="hazard.signal_word || 'none'">{{ signal }}</strong>
      <Pictograms v-if="hazard.pictograms.length" :codes="hazard.pictograms" />
    </header>
    <p class="soft small">{{ hazard.notice }}</p>
    <p v-if="bare && !hazard.unknown.length">Nothing in it reaches a limit.</p>
    <p v-if="hazard.unknown.length" class="unknown">
      {{
        hazard.unknown_share ? `Of ${percent(hazard.unknown_share)} of it nothing` : 'Of some of it nothing'
      }}
      is known: {{ hazard.unknown.join(', ') }}. Ask its seller for the safety data sheet.
    </p>
    <ul class="findings">
      <li v-for="f in hazard.statements" :key="f.code">
        <details>
          <summary>
            <strong>{{ f.text }}</strong> <span class="soft small">{{ f.code }}</span>
          </summary>
          <div class="small">{{ f.name }}: {{ f.because }}.</div>
        </details>
        <div v-if="f.less" class="less small">{{ f.less.says }}.</div>
      </li>
    </ul>
    <template v-if="hazard.possible.length">
      <h2>Only where every scoop is at its fullest</h2>
      <ul class="findings">
        <li v-for="f in hazard.possible" :key="f.code" class="small">{{ f.text }} {{ f.because }}.</li>
      </ul>
    </template>
    <details v-if="hazard.near.length || hazard.cleared.length" class="small">
      <summary>Near, and met not: {{ hazard.near.length + hazard.cleared.length }}</summary>
      <ul class="findings">
        <li v-for="f in [...hazard.near, ...hazard.cleared]" :key="f.code">
          {{ f.text }} <span class="soft">{{ f.because }}.</span>
        </li>
      </ul>
    </details>
    <details v-if="hazard.precautions.length" class="small">
      <summary>What the label then asks for</summary>
      <p v-for="p in hazard.precautions" :key="p.code">
        {{ p.text }} <span class="soft">{{ p.code }}</span>
      </p>
      <p v-if="hazard.child_proof">A closure that children cannot open.</p>
      <p v-if="hazard.tactile_warning">A warning the blind can feel.</p>
    </details>
    <p v-for="n in hazard.notes" :key="n" class="small">{{ n }}</p>
  </section>
</template>

<style scoped>
.screen {
  border-bottom: 1px solid var(--clay-line);
  padding: 8px 0 10px;
}

header {
  align-items: center;
  display: flex;
  gap: 14px;
}

.signal {
  font-size: 22px;
}

.danger {
  color: var(--oxblood);
}

.warning,
.unknown {
  color: var(--ochre-ink);
}

h2 {
  font: 600 14px var(--text);
  margin: 8px 0 2px;
}

p {
  margin: 2px 0 4px;
}

.findings {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}

.findings li {
  padding: 3px 0;
}

.less {
  color: var(--celadon-ink);
}

summary {
  cursor: pointer;
}
</style>
