<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, shallowRef } from 'vue'

import type { Of } from '../../api/batch'
import { api, ask, type Schemas } from '../../api/client'
import { unsentText } from '../../api/unsent'
import SaidField from '../../parts/SaidField.vue'
import { useSettled } from '../../parts/useSettled'

type Meaning = Schemas['BenchMeaning']
const remark = 'A remark in the log.'

// What happens, said at the bench or dictated to a phone: what it means is shown before
// it is kept, and can be taken back. Without the line to the server it is a remark.
const props = defineProps<{ of: Of }>()

const text = unsentText('note')
const settled = useSettled(text, 180)
const params = { path: { id: props.of.id } }
const { data: said } = useQuery({
  queryKey: computed(() => ['bench-said', props.of.id, settled.value, props.of.batch.value?.events.length]),
  queryFn: () => ask(api.POST('/api/batches/{id}/said', { params, body: { text: settled.value } })),
  enabled: computed(() => settled.value.trim().length > 1),
  retry: false,
  gcTime: 0,
})
/** What the text means as it stands; nothing while one types on. */
const meanings = computed<Meaning[]>(() =>
  text.value.trim().length > 1 && settled.value === text.value ? (said.value?.meanings ?? []) : [],
)
const heard = computed(() => said.value && { text: settled.value, words: said.value.words })
const asks = computed(() => meanings.value.some((m) => m.question))
/** A remark is what it says: that need not be told. */
const worthTelling = computed(() => meanings.value.filter((m) => m.question || !m.note || m.says !== remark))

/** What was kept last, and how it is taken back. */
const kept = shallowRef<{ says: string; back?: () => void }>()
const last = () => props.of.batch.value?.events.at(-1)?.seq ?? 0

async function keep(m: Meaning): Promise<(() => void) | undefined> {
  const { of } = props
  if (m.correct) {
    await of.correct.mutateAsync(m.correct)
    const { undo_correct: was } = m
    return was && (() => of.correct.mutate(was))
  }
  if (m.leave_out) {
    const { line } = m.leave_out
    await of.leaveOut.mutateAsync(m.leave_out)
    return () => of.leaveOut.mutate({ line, out: false })
  }
  if (m.add) await of.add.mutateAsync(m.add)
  else if (m.act) await of.act.mutateAsync(m.act)
  else if (m.measure) return void (await of.measure.mutateAsync(m.measure))
  else return void (await of.note.mutateAsync(m.note?.text ?? text.value.trim()))
  const event = last()
  const added = m.add && props.of.batch.value?.events.findLast((e) => e.kind === 'line-added')?.seq
  return () => of.act.mutate({ kind: 'undone', event: added ?? event })
}

async function commit() {
  const saying = text.value.trim()
  if (!saying || asks.value) return
  const all = meanings.value.length ? meanings.value : [{ says: remark, note: { text: saying } }]
  text.value = ''
  kept.value = undefined
  try {
    const back: (() => void)[] = []
    for (const m of all) {
      const undo = await keep(m)
      if (undo) back.push(undo)
    }
    kept.value = {
      says: all.map((m) => m.says).join(' '),
      back: back.length ? () => back.reverse().forEach((undo) => undo()) : undefined,
    }
  } catch {
    text.value ||= saying // what went wrong is told where the work is
  }
}
function takeBack() {
  kept.value?.back?.()
  kept.value = undefined
}
</script>

<template>
  <form class="happened" @submit.prevent="commit">
    <SaidField
      v-model="text"
      :heard="heard"
      name="note"
      label="What happened, or a remark"
      placeholder="a remark, or what happened: another splash of vinegar"
      @commit="commit"
      @escape="text = ''"
    />
    <button class="plain do keep" type="submit" :disabled="!text.trim() || asks">Log it</button>
    <p v-for="(m, i) in worthTelling" :key="i" class="small means" role="status">
      <span class="soft">Means:</span> {{ m.says }}
      <span v-if="m.question" class="bad">{{ m.question }}</span>
    </p>
    <p v-if="kept && !text" class="small means" role="status">
      <span class="soft">Kept:</span> {{ kept.says }}
      <button v-if="kept.back" class="plain do" type="button" @click="takeBack">Take it back</button>
    </p>
  </form>
</template>

<style scoped>
.happened {
  align-items: center;
  display: grid;
  gap: 4px 8px;
  grid-template-columns: minmax(0, 1fr) auto;
  margin-bottom: 8px;
}

.keep {
  min-height: 44px;
  padding: 0 10px;
}

.means {
  grid-column: 1 / 3;
  margin: 0;
}
</style>
