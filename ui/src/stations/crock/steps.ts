import type { Schemas } from '../../api/client'
import type { FormulaFile } from './useDraft'

export type FormulaStep = Schemas['FormulaStep']

/** Writes the steps so that they name the same lines after those have moved. */
function renumber(f: FormulaFile, to: (line: number) => number) {
  for (const s of f.steps ?? []) {
    if (!s.lines) continue
    s.lines = s.lines.map(to).filter((l) => l >= 0)
  }
}

/** Moves a line of a formula to another place. */
export function moveLine(f: FormulaFile, from: number, to: number) {
  const [line] = f.lines.splice(from, 1)
  if (!line) return
  f.lines.splice(to, 0, line)
  renumber(f, (l) => {
    if (l === from) return to
    if (from < l && l <= to) return l - 1
    if (to <= l && l < from) return l + 1
    return l
  })
}

/** Takes a line out of a formula. */
export function removeLine(f: FormulaFile, at: number) {
  f.lines.splice(at, 1)
  renumber(f, (l) => (l === at ? -1 : l > at ? l - 1 : l))
}

/** Moves a step to another place. */
export function moveStep(f: FormulaFile, from: number, to: number) {
  if (!f.steps || to < 0 || to >= f.steps.length) return
  const [step] = f.steps.splice(from, 1)
  if (step) f.steps.splice(to, 0, step)
}

/** Lets a step take a line, or no longer; a line goes in at one step only. */
export function toggleLine(f: FormulaFile, step: number, line: number) {
  const of = f.steps?.[step]
  if (!of) return
  const had = of.lines?.includes(line)
  for (const s of f.steps ?? []) if (s.kind !== 'weigh') s.lines = s.lines?.filter((l) => l !== line)
  if (!had) of.lines = [...(of.lines ?? []), line].sort((a, b) => a - b)
}

/** Lets a line go in after all others: at a step of its own, behind the last that takes one. */
export function putLast(f: FormulaFile, line: number, takes: (kind: string) => boolean) {
  const steps = (f.steps ??= [])
  for (const s of steps) s.lines = s.lines?.filter((l) => l !== line)
  const last = steps.findLastIndex((s) => s.kind !== 'weigh' && takes(s.kind) && !!s.lines?.length)
  const own = steps[last + 1]
  if (own && own.kind === 'mix' && !own.lines?.length) own.lines = [line]
  else steps.splice(last + 1, 0, { kind: 'mix', lines: [line] })
}

/** What is said against the order of the lines, and is mended by putting one of them last. */
export const goesLast = new Set(['scent-last', 'salt-after-surfactant'])
