<script setup lang="ts">
import { Button } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import CautionList from '../../parts/CautionList.vue'
import PhFields from '../../parts/PhFields.vue'
import { grams } from '../../words'

const props = defineProps<{ batch: Schemas['Batch'] }>()
const emit = defineEmits<{ note: [string]; measure: [Schemas['MeasuredPh']] }>()

const text = ref('')
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
    case 'left-out':
      return `left out ${line}`
    case 'taken-in':
      return `took ${line} in again`
    case 'measured':
      return `pH ${e.measured_ph?.ph}, with a ${e.measured_ph?.with}`
    case 'finished':
      return `finished. ${e.text ?? ''}`
    case 'abandoned':
      return `abandoned: ${e.text}`
    default:
      return e.text ?? ''
  }
}

function note() {
  if (text.value.trim()) emit('note', text.value.trim())
  text.value = ''
}

function measure() {
  if (ph.value) emit('measure', ph.value)
  ph.value = undefined
}
</script>

<template>
  <aside class="log">
    <template v-if="mind.length">
      <h3>Do not forget</h3>
      <CautionList :cautions="mind" />
    </template>
    <template v-if="batch.method">
      <h3>How it is made</h3>
      <p class="method">{{ batch.method }}</p>
    </template>
    <h3>Log</h3>
    <form v-if="canMake" @submit.prevent="note">
      <input
        v-model="text"
        name="note"
        placeholder="a correction, a remark"
        aria-label="A correction or remark"
      />
    </form>
    <form v-if="canMake" class="ph small" @submit.prevent="measure">
      <PhFields v-model="ph" what="pH" name="batch-ph" />
      <Button html-type="submit" size="small" :disabled="!ph">Note it</Button>
    </form>
    <ol>
      <li v-for="e in latest" :key="e.seq">
        <span class="soft small num" :title="dayjs(e.at).format('D MMM YYYY HH:mm:ss')">{{
          dayjs(e.at).format('HH:mm')
        }}</span>
        <span>{{ say(e) }}</span>
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

h3 {
  margin: 0 0 6px;
}

.method {
  font-size: 15px;
  margin: 0 0 16px;
}

.log :deep(.cautions) {
  margin-bottom: 16px;
}

input[name='note'] {
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: inherit;
  padding: 9px 10px;
  width: 100%;
}

.ph {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  margin-top: 8px;
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
