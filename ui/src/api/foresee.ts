import type { Schemas } from './client'
import type { BatchCalls } from './outbox'

type Batch = Schemas['Batch']
type Line = Schemas['BatchLine']

// What a batch will look like once the server hears of what was done: enough to go on with
// the next line or step while the line is down. The server's own word takes its place.

type Lot = Schemas['BatchLot']

/** Under this much is nothing, in grams; and a lot with less of a need than this share is a last resort. */
const TOLERANCE = 0.0005
const CRUMB = 0.02

const thousandths = (g: number) => Math.round(g * 1000) / 1000

/** What is to be taken of which lot for so many grams, as core/stock's Allocate has it. */
export function suggest(lots: Lot[], left: number): Map<string, number> {
  const queue = lots.filter((l) => !l.past && l.available_g > TOLERANCE)
  let behind = queue.reduce((sum, l) => sum + l.available_g, 0)
  for (let n = queue.length; n > 0; n--) {
    const first = queue[0] as Lot
    behind -= first.available_g
    if (first.available_g >= CRUMB * left || behind < left) break
    queue.push(queue.shift() as Lot)
  }
  const from = new Map<string, number>()
  for (const l of queue) {
    const g = Math.min(left, l.available_g)
    if (left <= TOLERANCE) break
    from.set(l.lot, thousandths(g))
    left -= g
  }
  return from
}

/** A line after something was weighed from its lots: how much is to be taken of each now. */
function suggested(l: Line): Line {
  const from = suggest(l.lots, l.left_g ?? 0)
  return { ...l, lots: l.lots.map((lot) => ({ ...lot, suggested_g: from.get(lot.lot) ?? 0 })) }
}

/** A line of which nothing was weighed, when another took from a lot that both share. */
function lessLeft(l: Line, w: Schemas['Weighing'], material?: string): Line {
  if (l.material !== material) return l
  const lots = l.lots.map((lot) =>
    lot.lot === w.lot || lot.code === w.lot
      ? { ...lot, available_g: thousandths(lot.available_g - w.grams) }
      : lot,
  )
  return suggested({ ...l, lots })
}

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
          available_g: thousandths(lot.available_g - w.grams),
        }
      : lot,
  )
  // what the server advised was of before
  return suggested({ ...l, weighed_g, left_g: Math.max(0, left), status, lots, advice: undefined })
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

export function foresee<P extends keyof BatchCalls>(b: Batch, path: P, body: BatchCalls[P]): Batch {
  if (path === '/api/batches/{id}/weighings') {
    const w = body as Schemas['Weighing']
    const material = b.lines.find((l) => l.line === w.line)?.material
    const lines = b.lines.map((l) => (l.line === w.line ? weighed(l, w) : lessLeft(l, w, material)))
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
