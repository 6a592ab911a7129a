import type { Schemas } from './client'
import type { Calls } from './outbox'

type Batch = Schemas['Batch']
type Line = Schemas['BatchLine']

// What a batch will look like once the server hears of what was done: enough to go on with
// the next line or step while the line is down. The server's own word takes its place.

function weighed(l: Line, w: Schemas['Weighing']): Line {
  const weighed_g = l.weighed_g + w.grams
  const left = l.target_g - weighed_g
  const status: Line['status'] =
    left < -l.tolerance_g ? 'over' : l.target_g === 0 || left <= l.tolerance_g ? 'done' : 'started'
  const lots = l.lots.map((lot) =>
    lot.lot === w.lot || lot.code === w.lot
      ? {
          ...lot,
          weighed_g: lot.weighed_g + w.grams,
          available_g: lot.available_g - w.grams,
          suggested_g: Math.max(0, Math.min(lot.suggested_g, left)),
        }
      : lot,
  )
  // what the server advised was of before
  return { ...l, weighed_g, left_g: Math.max(0, left), status, lots, advice: undefined }
}

/** The batch with the step after the one at hand as the next. */
function stepOn(b: Batch, done: number): Batch {
  const steps = (b.steps ?? []).map((s) => (s.step === done ? { ...s, status: 'done' as const } : s))
  const next = steps.find((s) => s.status === 'waiting' || s.status === 'here')
  return { ...b, steps, step: next?.step }
}

/** The batch with the next line to weigh, or the next step where there is none. */
function weighOn(b: Batch): Batch {
  const next = b.lines.findIndex((l) => l.status === 'waiting' || l.status === 'started')
  if (next >= 0) return { ...b, next_line: next }
  const on = { ...b, next_line: undefined }
  const here = b.step !== undefined ? b.steps?.[b.step] : undefined
  return here?.kind === 'weigh' ? stepOn(on, here.step) : on
}

export function foresee<P extends keyof Calls>(b: Batch, path: P, body: Calls[P]): Batch {
  if (path === '/api/batches/{id}/weighings') {
    const w = body as Schemas['Weighing']
    const lines = b.lines.map((l) => (l.line === w.line ? weighed(l, w) : l))
    return weighOn({ ...b, weighed_g: b.weighed_g + w.grams, lines })
  }
  if (path === '/api/batches/{id}/left-out') {
    const o = body as Schemas['LeaveOut']
    const status = (l: Line) =>
      (o.out ? 'left-out' : l.weighed_g > 0 ? 'started' : 'waiting') as Line['status']
    return weighOn({ ...b, lines: b.lines.map((l) => (l.line === o.line ? { ...l, status: status(l) } : l)) })
  }
  if (path === '/api/batches/{id}/acts') {
    const a = body as Schemas['BatchAct']
    if (a.step !== undefined && ['step-done', 'step-passed', 'checked'].includes(a.kind))
      return stepOn(b, a.step)
  }
  return b
}
