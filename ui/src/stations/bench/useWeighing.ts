import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, ref, watch } from 'vue'

import { api, ask, newKey, ProblemError, sentence, type Schemas } from '../../api/client'
import { session } from '../../api/session'
import { grams } from '../../words'
import { useScale } from './useScale'

/**
 * A batch being weighed out: the line and the lot that are at hand, what the scale
 * or the hand says, and what can be done about it.
 */
export function useWeighing(id: string) {
  const client = useQueryClient()
  const scale = useScale()

  const { data: batch, error: missing } = useQuery({
    queryKey: ['batch', id],
    queryFn: () => ask(api.GET('/api/batches/{id}', { params: { path: { id: id } } })),
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
      ask(api.POST('/api/batches/{id}/weighings', { params: { path: { id: id } }, body })),
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
      client.setQueryData(['batch', id], b)
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
      ask(api.POST('/api/batches/{id}/left-out', { params: { path: { id: id } }, body })),
    onSuccess: (b) => {
      chosen.value = null
      client.setQueryData(['batch', id], b)
    },
    onError: (e) => {
      if (e instanceof ProblemError) problem.value = e.problem
    },
  })
  const note = useMutation({
    mutationFn: (text: string) =>
      ask(api.POST('/api/batches/{id}/notes', { params: { path: { id: id } }, body: { text } })),
    onSuccess: (b) => client.setQueryData(['batch', id], b),
  })
  const measure = useMutation({
    mutationFn: (body: Schemas['MeasuredPh']) =>
      ask(api.POST('/api/batches/{id}/measurements', { params: { path: { id: id } }, body })),
    onSuccess: (b) => client.setQueryData(['batch', id], b),
  })
  const correct = useMutation({
    mutationFn: (body: Schemas['BatchCorrection']) =>
      ask(api.POST('/api/batches/{id}/corrections', { params: { path: { id } }, body })),
    onSuccess: (b) => client.setQueryData(['batch', id], b),
    onError: (e) => {
      if (e instanceof ProblemError) problem.value = e.problem
    },
  })
  function keepOver() {
    const line = current.value
    if (line) note.mutate(`Kept ${grams(over.value)} too much ${line.name.toLowerCase()}.`)
    stay.value = null
  }
  return {
    batch,
    missing,
    current,
    next,
    chosen,
    stay,
    lot,
    wanted,
    typed,
    code,
    problem,
    field,
    weigh,
    record,
    useAllTheSame,
    stepG,
    ready,
    takeReading,
    takeTyped,
    over,
    takeOut,
    keepOver,
    leaveOut,
    note,
    measure,
    correct,
    scale,
  }
}
