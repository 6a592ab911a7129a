<script setup lang="ts">
import { computed } from 'vue'

import { isOpen } from '../../api/batch'
import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { grams } from '../../words'
import AbandonBatch from './AbandonBatch.vue'

const props = defineProps<{ batch: Schemas['Batch']; current?: number }>()
defineEmits<{ pick: [line: number] }>()

const signs = { waiting: '○', started: '◐', done: '●', over: '▲', 'left-out': '–' } as const
const words = {
  waiting: 'waits',
  started: 'begun',
  done: 'done',
  over: 'too much',
  'left-out': 'left out',
} as const
const stepSigns = { waiting: '○', here: '◐', done: '●', passed: '–' } as const
const stepWords = { waiting: 'waits', here: 'at hand', done: 'done', passed: 'passed over' } as const

const steps = computed(() => props.batch.steps ?? [])
/** The lines that stand under a step: those it weighs out, or adds slowly. */
function linesOf(s: Schemas['BatchStep']) {
  const slow = new Set(steps.value.flatMap((o) => (o.kind === 'add' ? o.lines : [])))
  if (s.kind === 'add') return props.batch.lines.filter((l) => s.lines.includes(l.line))
  if (s.kind !== 'weigh') return []
  return props.batch.lines.filter(
    (l) => !l.added && (s.lines.length ? s.lines.includes(l.line) : !slow.has(l.line)),
  )
}
const added = computed(() => props.batch.lines.filter((l) => l.added))
/** One that only weighs and fills is shown by its lines. */
const plain = computed(() => steps.value.every((s) => s.kind === 'weigh' || s.kind === 'fill'))
</script>

<template>
  <nav class="steps" aria-label="Steps and lines">
    <h2>{{ batch.name }}</h2>
    <p class="num soft">{{ batch.code }}</p>
    <ol>
      <li v-for="s in steps" :key="s.step">
        <div
          v-if="!plain"
          class="head"
          :class="[s.status, { here: s.status === 'here' }]"
          :aria-current="s.status === 'here' ? 'step' : undefined"
        >
          <span class="sign" :title="stepWords[s.status]">{{ stepSigns[s.status] }}</span>
          <span class="name"
            ><span class="num">{{ s.step + 1 }}</span> {{ s.name
            }}<span v-if="s.for" class="small soft"> {{ s.for }}</span></span
          >
        </div>
        <ol
          v-if="linesOf(s).length && (plain || s.status === 'here' || s.kind === 'add')"
          class="inner"
          :class="{ plain }"
        >
          <li v-for="l in linesOf(s)" :key="l.line">
            <button
              class="plain step"
              type="button"
              :class="[l.status, { here: l.line === current }]"
              :disabled="!isOpen(batch)"
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
      </li>
    </ol>
    <template v-if="added.length">
      <p class="soft small">added at the bench</p>
      <ol class="inner plain">
        <li v-for="l in added" :key="l.line">
          <button
            class="plain step"
            type="button"
            :class="[l.status, { here: l.line === current }]"
            :disabled="!isOpen(batch)"
            @click="$emit('pick', l.line)"
          >
            <span class="sign" :title="words[l.status]">{{ signs[l.status] }}</span>
            <span class="name">{{ l.name }}</span>
            <span class="num g">{{ grams(l.status === 'waiting' ? l.target_g : l.weighed_g) }}</span>
          </button>
        </li>
      </ol>
    </template>
    <AbandonBatch v-if="isOpen(batch) && canMake" :batch="batch" />
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

.inner {
  margin: 0 0 4px 14px;
}

.inner.plain {
  margin-left: 0;
}

.head {
  display: grid;
  gap: 8px;
  grid-template-columns: 18px 1fr;
  padding: 6px 4px;
}

.head.here {
  background: var(--slip-raised);
  box-shadow: inset 3px 0 var(--cobalt);
  font-weight: 600;
}

.head.passed .name {
  color: var(--ink-soft);
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
