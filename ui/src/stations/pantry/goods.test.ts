import { expect, test } from 'vitest'

import type { Schemas } from '../../api/client'
import { inOrder, isIn } from './goods'

const good = (
  name: string,
  jars: number,
  left: number,
  state: 'good' | 'soon' | 'past',
  best_before?: string,
) => ({ name, jars, left, state, best_before }) as unknown as Schemas['PantryLot']
const goods = [
  good('Towpath', 8, 5, 'good', '2028-01-01'),
  good('Heron', 4, 1, 'soon', '2026-12-10'),
  good('Bittern', 0, 0, 'past'), // half-made, in no jars
]

test('goods are put in the order that is asked for; without a date last', () => {
  const names = (by: Parameters<typeof inOrder>[0]) => inOrder(by, goods).map((g) => g.name)
  expect(names('made')).toEqual(['Towpath', 'Heron', 'Bittern'])
  expect(names('name')).toEqual(['Bittern', 'Heron', 'Towpath'])
  expect(names('date')).toEqual(['Heron', 'Towpath', 'Bittern'])
  expect(names('left')).toEqual(['Bittern', 'Heron', 'Towpath'])
})

test('the last jars are of what is in jars', () => {
  const those = (state: Parameters<typeof isIn>[0]) => goods.filter((g) => isIn(state, g)).map((g) => g.name)
  expect(those('last')).toEqual(['Heron'])
  expect(those('soon')).toEqual(['Heron'])
  expect(those('past')).toEqual(['Bittern'])
  expect(those('ever')).toHaveLength(3)
})
