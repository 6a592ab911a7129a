import type { Schemas } from '../../api/client'

// Which of the jars are looked at, and in which order they stand on the boards.

type Jar = Schemas['ShelfJar']

export const states = [
  { value: 'all', label: 'everything' },
  { value: 'look', label: 'worth a look' },
  { value: 'low', label: 'low or none' },
  { value: 'date', label: 'past or soon' },
  { value: 'clumped', label: 'clumped' },
  { value: 'set-aside', label: 'set aside' },
  { value: 'own', label: 'of your own' },
] as const
export type State = (typeof states)[number]['value']

export const orders = [
  { value: 'board', label: 'as it stands' },
  { value: 'name', label: 'by name' },
  { value: 'least', label: 'least first' },
  { value: 'date', label: 'next date first' },
] as const
export type Order = (typeof orders)[number]['value']

const marks: Record<Exclude<State, 'all' | 'own'>, Schemas['ShelfMark'][]> = {
  look: ['out', 'past', 'clumped', 'low', 'soon', 'set-aside'],
  low: ['out', 'low'],
  date: ['past', 'soon'],
  clumped: ['clumped'],
  'set-aside': ['set-aside'],
}

/** Whether a jar is one of those that are looked at. */
export function isIn(state: State, jar: Jar, own: boolean): boolean {
  if (state === 'all') return true
  if (state === 'own') return own
  return jar.marks.some((m) => marks[state].includes(m))
}

/** The jars in an order: those that are emptiest against their reorder point first, or those
 * whose next date comes first; without a date last. */
export function inOrder(by: Order, jars: Jar[]): Jar[] {
  if (by === 'name') return jars.toSorted((a, b) => a.name.localeCompare(b.name))
  if (by === 'least') return jars.toSorted((a, b) => a.level - b.level)
  if (by === 'date')
    return jars.toSorted((a, b) => (a.next_date ?? '9999').localeCompare(b.next_date ?? '9999'))
  return jars
}
