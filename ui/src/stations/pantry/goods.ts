import type { Schemas } from '../../api/client'

// Which of the finished goods are looked at, and in which order.

type Good = Schemas['PantryLot']

export const stateWords = { good: 'keeps', soon: 'use soon', past: 'past its date' } as const

export const states = [
  { value: 'left', label: 'with jars left' },
  { value: 'soon', label: 'use soon' },
  { value: 'past', label: 'past the date' },
  { value: 'last', label: 'the last jars' },
  { value: 'ever', label: 'all ever made' },
] as const
export type State = (typeof states)[number]['value']

export const orders = [
  { value: 'made', label: 'newest first' },
  { value: 'name', label: 'by name' },
  { value: 'date', label: 'first date first' },
  { value: 'left', label: 'fewest jars first' },
] as const
export type Order = (typeof orders)[number]['value']

/** How many jars left are the last ones. */
const lastJars = 2

/** Whether a good is one of those that are looked at. */
export function isIn(state: State, good: Good): boolean {
  if (state === 'soon' || state === 'past') return good.state === state
  return state === 'last' ? good.jars > 0 && good.left <= lastJars : true
}

export function inOrder(by: Order, goods: Good[]): Good[] {
  if (by === 'name') return goods.toSorted((a, b) => a.name.localeCompare(b.name))
  if (by === 'date')
    return goods.toSorted((a, b) => (a.best_before ?? '9999').localeCompare(b.best_before ?? '9999'))
  return by === 'left' ? goods.toSorted((a, b) => a.left - b.left) : goods
}
