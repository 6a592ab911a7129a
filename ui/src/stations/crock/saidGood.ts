import type { Schemas } from '../../api/client'
import type { FormulaFile } from './useDraft'

export type Said = Schemas['Said']

/** How much of a talk a formula keeps; the formula format's. */
const mostSaid = 20_000

/** Whether something of a kind was said. */
const heard = (said: Said, became: Schemas['SaidWord']['became']) =>
  said.words.some((w) => w.became === became)

/** What is said not to be in it, as a note. */
export const noneOf = (said: Pick<Said, 'not'>) =>
  said.not.length ? `Holds no ${said.not.map((n) => n.name.toLowerCase()).join(', no ')}.` : ''

const joined = (between: string, ...parts: (string | undefined)[]) =>
  parts.filter(Boolean).join(between) || undefined

/** Takes what was said into a formula: its lines, and all that was said beside them. */
export function takeSaid(f: FormulaFile, said: Said) {
  const g = said.formula
  const fresh = f.lines.length === 0
  f.lines = g.lines
  if (heard(said, 'name') && (fresh || !f.name)) f.name = g.name
  if (g.kind && g.kind !== 'other' && (fresh || !f.kind)) f.kind = g.kind
  if (g.yield?.amount) f.yield = g.yield
  if (g.uses?.amount) f.uses = g.uses
  if (g.doses?.length) f.doses = g.doses
  if (g.method) {
    f.method = joined('\n', f.method, g.method)
    if (!f.steps?.length && g.steps?.length) f.steps = g.steps
  }
  const none = noneOf(said)
  f.notes = joined(' ', f.notes, g.notes, none && !f.notes?.includes(none) ? none : undefined)
  if (g.said) f.said = joined('\n', f.said, g.said)?.slice(0, mostSaid)
}

/** What a word can be made that stands in the wrong place. */
export const places = ['line', 'step', 'use'] as const
export type Place = (typeof places)[number]
export const placeNames: Record<Place, string> = {
  line: 'a line of it',
  step: 'something that is done',
  use: 'how much is used',
}

/** Puts words where they belong. */
export function moveWords(f: FormulaFile, text: string, to: Place) {
  const words = text.trim().replace(/[,;:.]+$/, '')
  if (to === 'line') f.lines = [...f.lines, { material: words.slice(0, 80), amount: '' }]
  else if (to === 'step')
    f.method = joined('\n', f.method, `${words.slice(0, 1).toUpperCase()}${words.slice(1)}.`)
  else f.uses = { ...f.uses, amount: words.slice(0, 200) }
}

/** Takes the answer to what was asked of a line for its material. */
export function chooseFor(f: FormulaFile, line: number, name: string) {
  f.lines = f.lines.map((l, i) => (i === line ? { ...l, material: name } : l))
}
