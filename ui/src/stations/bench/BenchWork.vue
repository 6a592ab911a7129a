<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, ref, watch } from 'vue'

import { api, ask, newKey, ProblemError, sentence, type Schemas } from '../../api/client'
import { canMake, session } from '../../api/session'
import { useSingleKeys } from '../../parts/useKeys'
import { grams } from '../../words'
import BatchEnd from './BatchEnd.vue'
import BatchLog from './BatchLog.vue'
import LotPick from './LotPick.vue'
import ScaleHand from './ScaleHand.vue'
import ScaleMeter from './ScaleMeter.vue'
import StepList from './StepList.vue'
import { useScale } from './useScale'

const props = defineProps<{ id: string }>()
const client = useQueryClient()
const scale = useScale()

const { data: batch, error: missing } = useQuery({
  queryKey: ['batch', props.id],
  queryFn: () => ask(api.GET('/api/batches/{id}', { params: { path: { id: props.id } } })),
  retry: false,
})

const chosen = ref<number | null>(null) // a line picked by hand
const stay = ref<number | null>(null) // an over-weighed line that wants a decision
const current = computed(() => {
  const b = batch.value
  if (!b || b.state !== 'weighing') return undefined
  const i = stay.value ?? chosen.value ?? b.next_line
  return i === undefined ? undefined : b.lines[i]
})
const next = computed(() => {
  const b = batch.value
  if (!b || !current.value) return undefined
  return b.lines.find(
    (l) => l.line > (current.value?.line ?? 0) && (l.status === 'waiting' || l.status === 'started'),
  )
})

const lot = ref('')
watch(
  current,
  (line, before) => {
    if (!line) return
    // of what is left open no lot is asked for more than another: the first to use
    const suggested = line.lots.find((l) => l.suggested_g > 0 || line.target_g === 0)
    const kept = line.lots.find((l) => l.lot === lot.value)
    if (line.line !== before?.line || !kept || (line.target_g > 0 && kept.suggested_g === 0))
      lot.value = suggested?.lot ?? ''
  },
  { immediate: true },
)
const fromLot = computed(() => current.value?.lots.find((l) => l.lot === lot.value))
const wanted = computed(() => {
  const line = current.value
  if (!line) return 0
  return fromLot.value ? fromLot.value.suggested_g : (line.left_g ?? 0)
})

const typed = ref('')
let entered = '' // what was typed when a weighing was last sent
const code = ref('')
const problem = ref<Schemas['Problem'] | null>(null)
const field = ref<HTMLInputElement>()

const weigh = useMutation({
  mutationFn: (body: Schemas['Weighing']) =>
    ask(api.POST('/api/batches/{id}/weighings', { params: { path: { id: props.id } }, body })),
  // tried again with the same key, it is recorded once only
  retry: (failures, e) => failures < 40 && e instanceof ProblemError && e.problem.status === 0,
  retryDelay: 1500,
  // The live update may have moved the bench on already, so the line is the one that was sent.
  onSuccess: async (b, sent) => {
    problem.value = null
    if (typed.value === entered) typed.value = code.value = ''
    chosen.value = null
    stay.value = b.lines[sent.line]?.status === 'over' ? sent.line : null
    await tipPan() // before anything else is asked for
    client.setQueryData(['batch', props.id], b)
    await nextTick()
    field.value?.focus()
  },
  onError: (e) => {
    problem.value =
      e instanceof ProblemError
        ? e.problem
        : { type: '', title: '', status: 0, code: '', detail: sentence(e) }
  },
})

/** Tips the pan into the tub. What was weighed stands, even if the scale does not hear of it. */
async function tipPan() {
  await scale.touch({ clear: true }).catch(() => undefined)
}

/** Records grams of the current line, from the chosen lot unless another is named. */
function record(g: number, from = lot.value) {
  const line = current.value
  if (!line) return
  const body: Schemas['Weighing'] = { line: line.line, grams: g, key: newKey() }
  if (!line.unstocked && from) body.lot = from
  entered = typed.value
  weigh.mutate(body)
}

/** Records once more what was refused, past its date or not. */
function useAllTheSame() {
  const refused = weigh.variables.value
  if (refused) weigh.mutate({ ...refused, key: newKey(), accept_past: true })
}

const stepG = computed(() => scale.reading.value?.step_g ?? session.value?.workshop.scale_step_g ?? 1)
const shown = computed(() => scale.reading.value?.grams ?? 0)
const ready = computed(() => !!scale.reading.value?.stable && shown.value > 0)

function takeReading() {
  if (ready.value) record(shown.value)
}

function takeTyped() {
  const g = Number(typed.value.replace(',', '.'))
  if (!Number.isFinite(g) || g === 0) {
    problem.value = {
      type: '',
      title: '',
      status: 0,
      code: 'bad-value',
      detail: 'Type the grams you read, such as 227 or 4.6.',
    }
    return
  }
  record(g, code.value.trim() || lot.value)
}

const over = computed(() =>
  current.value?.status === 'over' ? current.value.weighed_g - current.value.target_g : 0,
)
function takeOut() {
  const line = current.value
  const from = line?.lots.find((l) => l.weighed_g >= over.value)
  record(-Math.round(over.value * 1000) / 1000, from?.lot)
}
const leaveOut = useMutation({
  mutationFn: (body: Schemas['LeaveOut']) =>
    ask(api.POST('/api/batches/{id}/left-out', { params: { path: { id: props.id } }, body })),
  onSuccess: (b) => {
    chosen.value = null
    client.setQueryData(['batch', props.id], b)
  },
  onError: (e) => {
    if (e instanceof ProblemError) problem.value = e.problem
  },
})
const note = useMutation({
  mutationFn: (text: string) =>
    ask(api.POST('/api/batches/{id}/notes', { params: { path: { id: props.id } }, body: { text } })),
  onSuccess: (b) => client.setQueryData(['batch', props.id], b),
})
const measure = useMutation({
  mutationFn: (body: Schemas['MeasuredPh']) =>
    ask(api.POST('/api/batches/{id}/measurements', { params: { path: { id: props.id } }, body })),
  onSuccess: (b) => client.setQueryData(['batch', props.id], b),
})
function keepOver() {
  const line = current.value
  if (line) note.mutate(`Kept ${grams(over.value)} too much ${line.name.toLowerCase()}.`)
  stay.value = null
}

useSingleKeys(
  [
    { keys: 'Space', does: 'take the reading' },
    { keys: 't', does: 'tare' },
    { keys: 'w', does: 'type a weight' },
  ],
  {
    ' ': takeReading,
    t: () => void scale.touch({ tare: true }),
    w: () => field.value?.focus(),
  },
)
</script>

<template>
  <p v-if="missing && !batch" class="pad">
    {{ sentence(missing) }} <RouterLink to="/bench">Back to the bench</RouterLink>
  </p>
  <div v-else-if="batch" class="bench">
    <StepList :batch="batch" :current="current?.line" @pick="(i) => ((chosen = i), (stay = null))" />
    <section class="work" :aria-busy="weigh.isPending.value">
      <template v-if="current">
        <header class="what">
          <h1>{{ current.name }}</h1>
          <p class="soft">
            line {{ current.line + 1 }} of {{ batch.lines.length
            }}<template v-if="current.phase"> · {{ current.phase }}</template>
            <template v-if="next"> · then {{ next.name }}</template>
          </p>
        </header>
        <ScaleMeter :wanted-g="wanted" :line="current" :reading="scale.reading.value" :step-g="stepG" />

        <p v-if="scale.reading.value?.overload" class="say stop" role="alert">
          More than the scale bears. Take some off, and weigh it in two goes.
        </p>
        <p v-if="weigh.isPending.value && weigh.failureReason.value" class="say stop" role="alert">
          The server does not answer. This weighing is sent again until it does.
        </p>
        <p v-else-if="problem" class="say stop" role="alert">
          {{ problem.detail }}
          <button v-if="problem.code === 'lot-past'" class="big-do" type="button" @click="useAllTheSame">
            Use it all the same
          </button>
        </p>
        <p
          v-else-if="current.advice"
          class="say"
          :class="current.status === 'over' ? 'watch' : 'plain-say'"
          role="status"
        >
          {{ current.advice }}
          <template v-if="current.status === 'over' && canMake">
            <button class="big-do" type="button" @click="takeOut">I took {{ grams(over) }} out</button>
            <button class="big-do" type="button" @click="keepOver">Keep it and note it</button>
          </template>
        </p>

        <LotPick v-if="!current.unstocked" v-model="lot" :lots="current.lots" :step-g="stepG" />
        <p v-else class="soft">From the tap: no bag to name.</p>

        <div v-if="canMake" class="do-row">
          <button
            v-if="current.hand && current.weighed_g === 0"
            class="big-do main"
            type="button"
            :disabled="weigh.isPending.value"
            @click="record(current.target_g)"
          >
            {{ current.hand }} went in
          </button>
          <button
            v-else
            class="big-do main"
            type="button"
            :disabled="!ready || weigh.isPending.value"
            @click="takeReading"
          >
            Take this reading
          </button>
          <form class="typed" @submit.prevent="takeTyped">
            <input
              ref="field"
              v-model="typed"
              name="typed-grams"
              inputmode="decimal"
              placeholder="or grams"
              aria-label="Grams, typed"
            />
            <input
              v-if="!current.unstocked"
              v-model="code"
              name="lot-code"
              placeholder="lot code"
              aria-label="Code on the bag"
            />
            <button class="big-do" type="submit" :disabled="!typed || weigh.isPending.value">Enter</button>
          </form>
        </div>
        <p v-if="canMake && current.optional && current.weighed_g === 0" class="optional">
          {{ current.target_g > 0 ? 'This line is optional.' : 'It may need none.' }}
          <button
            class="big-do"
            type="button"
            :disabled="leaveOut.isPending.value"
            @click="leaveOut.mutate({ line: current.line, out: current.status !== 'left-out' })"
          >
            {{ current.status === 'left-out' ? 'Take it in after all' : 'Leave it out' }}
          </button>
        </p>
        <ScaleHand v-if="canMake" :wanted="wanted" @touch="scale.touch" />
      </template>
      <BatchEnd v-else :batch="batch" />
    </section>
    <BatchLog :batch="batch" @note="(t) => note.mutate(t)" @measure="(m) => measure.mutate(m)" />
  </div>
</template>

<style scoped>
.pad {
  padding: 40px;
}

.bench {
  display: grid;
  grid-template-columns: 230px minmax(480px, 1fr) 270px;
  height: 100%;
}

.work {
  overflow: auto;
  padding: 16px 28px 24px;
}

.what h1 {
  font-size: 44px;
}

.what p {
  margin: 2px 0 0;
}

.say {
  border-left: 5px solid var(--clay);
  font-size: 19px;
  margin: 8px 0;
  padding: 8px 14px;
}

.say.stop {
  background: var(--oxblood-wash);
  border-color: var(--oxblood);
}

.say.watch {
  background: var(--ochre-wash);
  border-color: var(--ochre);
}

.do-row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 14px 0;
}

.big-do {
  background: var(--slip-raised);
  border: 2px solid var(--cobalt);
  border-radius: var(--corner);
  color: var(--cobalt);
  cursor: pointer;
  font: 600 19px var(--slab);
  margin-right: 8px;
  min-height: 56px;
  padding: 0 20px;
}

.big-do.main {
  background: var(--cobalt);
  color: var(--on-cobalt);
  flex: 1 1 260px;
  font-size: 24px;
  min-height: 72px;
}

.big-do:disabled {
  cursor: default;
  opacity: 0.4;
}

.optional {
  align-items: center;
  display: flex;
  font-size: 17px;
  gap: 14px;
  margin: 0 0 14px;
}

.typed {
  align-items: stretch;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  min-width: 0;
}

.typed input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 20px var(--slab);
  padding: 0 12px;
  width: 140px;
}

.typed input[name='lot-code'] {
  width: 108px;
}

@media (max-width: 1100px) {
  .bench {
    display: block;
    overflow: auto;
  }
}

/* in the hand the weighing comes first, the list after it */
@media (max-width: 700px) {
  .bench {
    display: flex;
    flex-direction: column;
  }

  .bench > * {
    flex: none;
  }

  .bench > .steps {
    order: 1;
  }

  .bench > .log {
    order: 2;
  }

  .work {
    overflow: visible;
    padding: 12px 16px 20px;
  }
}
</style>
