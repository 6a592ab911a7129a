<script setup lang="ts">
import { Button } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import { isOpen, type Of } from '../../api/batch'
import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import CautionList from '../../parts/CautionList.vue'
import PhFields from '../../parts/PhFields.vue'
import { clock } from '../../parts/useClock'
import { grams } from '../../words'
import BenchTalk from './BenchTalk.vue'
import PhotoNote from './PhotoNote.vue'

const props = defineProps<{ batch: Schemas['Batch']; of: Of }>()

const ph = ref<Schemas['MeasuredPh']>()
const mind = computed(() => props.batch.cautions.filter((c) => c.severity !== 'note'))
const latest = computed(() => [...props.batch.events].reverse())

function say(e: Schemas['BatchEvent']): string {
  const line = e.line === undefined ? '' : (props.batch.lines[e.line]?.name ?? '')
  const lot = e.lot_code ? `, lot ${e.lot_code}` : ''
  switch (e.kind) {
    case 'started':
      return 'begun'
    case 'weighed':
      return `${grams(e.grams ?? 0)} ${line}${lot}`
    case 'took-out':
      return `took out ${grams(-(e.grams ?? 0))} ${line}${lot}`
    case 'line-added':
      return `added a line: ${grams(e.grams ?? 0)} ${e.name}`
    case 'step-done':
      return `${stepName(e)}: done`
    case 'step-passed':
      return `${stepName(e)}: passed over`
    case 'step-opened':
      return `${stepName(e)}: opened again`
    case 'timer-set':
      return `${stepName(e)}: timer for ${clock(e.seconds ?? 0)}`
    case 'timer-ended':
      return `${stepName(e)}: timer heard`
    case 'checked':
      return `${stepName(e)}: ${e.answer}`
    case 'pot-weighed':
      return `the pot weighs ${grams(e.grams ?? 0)}`
    case 'yield-weighed':
      return `${grams(e.grams ?? 0)} came of it`
    case 'pieces-counted':
      return `${e.count} pieces${e.grams ? `, ${grams(e.grams)}` : ''}`
    case 'pieces-broke':
      return `${e.count} pieces broke: ${e.text}`
    case 'weighed-in':
      return `weighed in, ${grams(e.grams ?? 0)}`
    case 'stirred':
      return 'stirred'
    case 'kept-back':
      return `kept ${grams(e.grams ?? 0)} ${line}${e.text ? `, ${e.text}` : ''}`
    case 'handed-over':
      return `handed over to ${e.text}`
    case 'packed':
      return `packed ${e.count} of ${grams(e.grams ?? 0)}`
    case 'undone':
      return `took back: ${undone(e)}`
    case 'left-out':
      return `left out ${line}`
    case 'taken-in':
      return `took ${line} in again`
    case 'measured':
      return `pH ${e.measured_ph?.ph}, with a ${e.measured_ph?.with}`
    case 'hands-told':
      return `hands: ${Math.round((e.seconds ?? 0) / 60)} min`
    case 'corrected':
      return line
        ? `put right: ${grams(e.grams ?? 0)} ${line}${lot}, not ${grams(e.was_grams ?? 0)}`
        : `put right: ${e.text}, not “${e.was_text}”`
    case 'finished':
      return `finished. ${e.text ?? ''}`
    case 'abandoned':
      return `abandoned: ${e.text}`
    case 'pictured':
      return e.text || 'a photo'
    case 'noted':
      return e.text ?? ''
  }
}

const stepName = (e: Schemas['BatchEvent']) =>
  e.step === undefined ? '' : (props.batch.steps?.[e.step]?.name ?? '')
function undone(e: Schemas['BatchEvent']): string {
  const was = props.batch.events.find((o) => o.seq === e.corrects)
  return was ? say(was) : ''
}

/** Entries that were put right since. */
const amended = computed(
  () =>
    new Set(props.batch.events.flatMap((e) => (e.corrects && e.kind === 'corrected' ? [e.corrects] : []))),
)

/** The entry that is being put right, and what it is to say. */
const wrong = ref<Schemas['BatchEvent']>()
const right = ref('')

/** Whether an entry can be put right: a weighing while the batch is open, a note always. */
function amendable(e: Schemas['BatchEvent']) {
  const weighing = e.kind === 'weighed' || e.kind === 'took-out'
  return canMake.value && (e.kind === 'noted' || (weighing && isOpen(props.batch)))
}

function amend(e: Schemas['BatchEvent']) {
  wrong.value = e
  right.value = e.kind === 'noted' ? (e.text ?? '') : String(e.grams)
}

function putRight() {
  const e = wrong.value
  if (!e) return
  if (e.kind === 'noted') props.of.correct.mutate({ event: e.seq, text: right.value.trim() })
  else {
    const g = Number(right.value.replace(',', '.'))
    if (!Number.isFinite(g)) return
    props.of.correct.mutate({ event: e.seq, grams: g })
  }
  wrong.value = undefined
}

function measure() {
  if (ph.value) props.of.measure.mutate(ph.value)
  ph.value = undefined
}
</script>

<template>
  <aside class="log">
    <template v-if="mind.length">
      <h2>Do not forget</h2>
      <CautionList :cautions="mind" />
    </template>
    <template v-for="l in batch.labels ?? []" :key="l">
      <p class="label">On the label: {{ l }}</p>
    </template>
    <template v-if="batch.method && (batch.steps?.length ?? 0) <= 2">
      <h2>How it is made</h2>
      <p class="method">{{ batch.method }}</p>
    </template>
    <h2>Log</h2>
    <BenchTalk v-if="canMake" :of="of" />
    <PhotoNote v-if="canMake" :of="of" />
    <form v-if="canMake" class="ph small" @submit.prevent="measure">
      <PhFields v-model="ph" what="pH" name="batch-ph" />
      <Button html-type="submit" size="small" :disabled="!ph">Note it</Button>
    </form>
    <ol>
      <li v-for="e in latest" :key="e.seq">
        <span class="soft small num" :title="dayjs(e.at).format('D MMM YYYY HH:mm:ss')">{{
          dayjs(e.at).isSame(dayjs(), 'day') ? dayjs(e.at).format('HH:mm') : dayjs(e.at).format('D MMM')
        }}</span>
        <form v-if="wrong?.seq === e.seq" class="right" @submit.prevent="putRight">
          <input
            v-model="right"
            name="put-right"
            :aria-label="e.kind === 'noted' ? 'What the note is to say' : 'Grams that were weighed really'"
            @keydown.esc.stop="wrong = undefined"
          />
          <Button html-type="submit" size="small">Put right</Button>
        </form>
        <span v-else>
          <a v-if="e.picture" class="photo" :href="`/api/pictures/${e.picture.id}`" target="_blank">
            <img
              :src="`/api/pictures/${e.picture.id}`"
              :alt="e.text ? `Photo: ${e.text}` : 'Photo, opened large in a window of its own'"
              :width="e.picture.width"
              :height="e.picture.height"
              :style="{ width: `min(100%, ${(180 * e.picture.width) / e.picture.height}px)` }"
              loading="lazy"
            />
          </a>
          <component :is="amended.has(e.seq) || e.undone ? 's' : 'span'">{{ say(e) }}</component>
          <button v-if="amendable(e)" class="plain amend" type="button" @click="amend(e)">not so</button>
          <button
            v-else-if="canMake && e.can_undo && !e.undone"
            class="plain amend"
            type="button"
            @click="of.act.mutate({ kind: 'undone', event: e.seq })"
          >
            take back
          </button>
        </span>
      </li>
    </ol>
  </aside>
</template>

<style scoped>
.log {
  border-left: 1px solid var(--clay-line);
  font-size: 14px;
  overflow: auto;
  padding: 16px 16px 30px;
}

h2 {
  margin: 0 0 6px;
}

.label {
  background: var(--ochre-wash);
  margin: 0 0 10px;
  padding: 4px 8px;
}

.method {
  font-size: 15px;
  margin: 0 0 16px;
}

.log :deep(.cautions) {
  margin-bottom: 16px;
}

.right {
  display: flex;
  gap: 6px;
}

.right input {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: inherit;
  min-width: 0;
  padding: 2px 6px;
  width: 100%;
}

.photo img {
  background: var(--clay-line);
  border-radius: var(--corner);
  display: block;
  height: auto;
  margin-bottom: 4px;
}

.amend {
  color: var(--ink-soft);
  font-size: 12px;
  margin-left: 4px;
  text-decoration: underline;
}

.ph {
  align-items: center;
  display: grid;
  gap: 6px 8px;
  grid-template-columns: minmax(84px, 1fr) minmax(0, 150px);
  margin-top: 8px;
}

.ph :deep(label) {
  align-items: center;
  display: flex;
  gap: 6px;
}

.ph :deep(input) {
  min-width: 0;
  width: 100%;
}

.ph :deep(.with) {
  width: auto;
}

.ph :deep(button) {
  justify-self: start;
}

.ph :deep(:is(input, .ant-select-selector, button)) {
  align-items: center;
  min-height: 44px;
}

ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}

li {
  display: grid;
  gap: 8px;
  grid-template-columns: 42px 1fr;
  padding: 3px 0;
}
</style>
