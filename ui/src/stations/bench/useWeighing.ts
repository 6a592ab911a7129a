import { useMutation } from '@tanstack/vue-query'
import { computed, nextTick, ref, watch } from 'vue'

import { isOpen, type Of } from '../../api/batch'
import { newKey, type Schemas } from '../../api/client'
import { session } from '../../api/session'
import { grams } from '../../words'
import { useScale } from './useScale'

/**
 * Weighing for a batch: the line and the lot that are at hand, what the scale or the
 * hand says, and what can be done about it.
 */
export function useWeighing(of: Of) {
  /** Whether a scale is on the bench; without one the weight is typed. */
  const onBench = session.value?.workshop.scale ?? false
  const scale = useScale(onBench)

  const { batch, problem, took, note } = of

  const chosen = ref<number | null>(null) // a line picked by hand
  const stay = ref<number | null>(null) // an over-weighed line that wants a decision
  const current = computed(() => {
    const b = batch.value
    if (!b || !isOpen(b)) return undefined
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
      // where nothing more is wanted, the one it came from
      const suggested =
        line.lots.find((l) => l.suggested_g > 0 || line.target_g === 0) ??
        line.lots.find((l) => l.weighed_g > 0)
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
  const field = ref<HTMLInputElement>()

  const weigh = useMutation({
    mutationFn: of.weigh,
    // The live update may have moved the bench on already, so the line is the one that was sent.
    onSuccess: async (b, sent) => {
      problem.value = null
      if (typed.value === entered) typed.value = code.value = ''
      chosen.value = null
      stay.value = b.lines[sent.line]?.status === 'over' ? sent.line : null
      await tipPan() // before anything else is asked for
      took(b)
      await nextTick()
      field.value?.focus()
    },
    onError: (e) => {
      of.failed(e)
    },
  })

  /** Tips the pan into the tub. What was weighed stands, even if the scale does not hear of it. */
  async function tipPan() {
    await scale.touch({ clear: true }).catch(() => undefined)
  }

  function complain(code: string, detail: string) {
    problem.value = { type: '', title: '', status: 0, code, detail }
  }

  /** Records grams of the current line, from the chosen lot unless another is named. */
  function record(g: number, from = lot.value) {
    const line = current.value
    if (!line) return
    if (line.status === 'over' && g > 0) {
      complain('settle-first', 'First say what becomes of what is too much: taken out, or kept.')
      return
    }
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

  /** What was typed while another weighing is still on its way is taken once that has come. */
  const afterwards = ref(false)
  watch(weigh.isPending, (pending) => {
    if (pending || !afterwards.value) return
    afterwards.value = false
    takeTyped()
  })

  function takeTyped() {
    if (weigh.isPending.value) {
      afterwards.value = true
      return
    }
    const g = typedG.value
    if (!Number.isFinite(g) || g === 0) {
      complain('bad-value', 'Type what you read, such as 227, 4.6 or 1.2 kg.')
      return
    }
    record(g, code.value.trim() || lot.value)
  }
  /** What was typed, in grams; a number by itself is of grams. NaN for what is none. */
  const typedG = computed(() => {
    const said = /^\s*(-?\d*[.,]?\d+)\s*(kg|g)?\s*$/i.exec(typed.value)
    if (!said) return NaN
    return Number(said[1]?.replace(',', '.')) * (said[2]?.toLowerCase() === 'kg' ? 1000 : 1)
  })

  const over = computed(() =>
    current.value?.status === 'over' ? current.value.weighed_g - current.value.target_g : 0,
  )
  function takeOut() {
    const line = current.value
    const from = line?.lots.find((l) => l.weighed_g >= over.value)
    record(-Math.round(over.value * 1000) / 1000, from?.lot)
  }
  function keepOver() {
    const line = current.value
    if (line) note.mutate(`Kept ${grams(over.value)} too much ${line.name.toLowerCase()}.`)
    moveOn()
  }

  /** What is settled is left: on to what is next, and to the field. */
  function moveOn() {
    problem.value = null
    typed.value = code.value = ''
    stay.value = chosen.value = null
    void nextTick(() => field.value?.focus())
  }

  /** Leaves the line at hand out and goes on, or takes it in again. */
  function leaveOut() {
    const line = current.value
    if (!line) return
    const out = line.status !== 'left-out'
    of.leaveOut.mutate({ line: line.line, out }, { onSuccess: () => out && moveOn() })
  }
  return {
    current,
    next,
    chosen,
    stay,
    lot,
    wanted,
    typed,
    typedG,
    code,
    field,
    onBench,
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
    scale,
  }
}
