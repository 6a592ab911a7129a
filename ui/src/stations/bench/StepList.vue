<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { grams } from '../../words'
import AbandonBatch from './AbandonBatch.vue'

defineProps<{ batch: Schemas['Batch']; current?: number }>()
defineEmits<{ pick: [line: number] }>()

const signs = { waiting: '○', started: '◐', done: '●', over: '▲', 'left-out': '–' } as const
const words = {
  waiting: 'waits',
  started: 'begun',
  done: 'done',
  over: 'too much',
  'left-out': 'left out',
} as const
</script>

<template>
  <nav class="steps" aria-label="Lines to weigh">
    <h2>{{ batch.name }}</h2>
    <p class="num soft">{{ batch.code }}</p>
    <ol>
      <li v-for="l in batch.lines" :key="l.line">
        <button
          class="plain step"
          type="button"
          :class="[l.status, { here: l.line === current }]"
          :disabled="batch.state !== 'weighing'"
          @click="$emit('pick', l.line)"
        >
          <span class="sign" :title="words[l.status]">{{ signs[l.status] }}</span>
          <span class="name">
            {{ l.name }}
            <span v-if="l.status === 'left-out'" class="small">left out</span>
            <span v-else-if="l.optional" class="small">optional</span>
          </span>
          <span class="num g">{{
            l.status !== 'waiting'
              ? grams(l.weighed_g)
              : l.hand || (l.target_g > 0 ? grams(l.target_g) : 'as needed')
          }}</span>
        </button>
      </li>
    </ol>
    <AbandonBatch v-if="batch.state === 'weighing' && canMake" :batch="batch" />
    <p class="soft small">{{ grams(batch.weighed_g) }} of {{ grams(batch.planned_g) }} weighed</p>
  </nav>
</template>

<style scoped>
.steps {
  background: var(--slip-sunk);
  border-right: 1px solid var(--clay-line);
  overflow: auto;
  padding: 16px 14px;
}

p {
  margin: 2px 0 8px;
}

ol {
  list-style: none;
  margin: 8px 0 12px;
  padding: 0;
}

.step {
  align-items: baseline;
  border-bottom: 1px solid var(--clay-line);
  display: grid;
  gap: 8px;
  grid-template-columns: 18px 1fr auto;
  min-height: 48px;
  padding: 12px 4px;
  width: 100%;
}

.step.here {
  background: var(--slip-raised);
  box-shadow: inset 3px 0 var(--cobalt);
}

.done .sign {
  color: var(--celadon-ink);
}

.over .sign {
  color: var(--ochre-ink);
}

.left-out .name {
  color: var(--ink-soft);
}

.name .small {
  color: var(--ink-soft);
  display: block;
}

.done .name {
  color: var(--ink-soft);
}

.g {
  font-weight: 600;
}
</style>
