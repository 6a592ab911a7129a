import { expect, test } from 'vitest'

import type { Schemas } from '../../api/client'
import { inOrder, isIn } from './boards'

const jar = (name: string, level: number, next_date?: string, marks: Schemas['ShelfMark'][] = []) =>
  ({ material: name, name, level, next_date, marks, functions: [] }) as unknown as Schemas['ShelfJar']
const jars = [
  jar('Borax', 0.5, '2028-01-01'),
  jar('Alum', 0.1, undefined, ['low']),
  jar('Citric acid', 0.9, '2026-12-24', ['soon', 'opened']),
]

test('boards are put in the order that is asked for, and no other', () => {
  const names = (by: Parameters<typeof inOrder>[0]) => inOrder(by, jars).map((j) => j.name)
  expect(names('board')).toEqual(['Borax', 'Alum', 'Citric acid'])
  expect(names('name')).toEqual(['Alum', 'Borax', 'Citric acid'])
  expect(names('least')).toEqual(['Alum', 'Borax', 'Citric acid'])
  expect(names('date')).toEqual(['Citric acid', 'Borax', 'Alum'])
})

test('an opened jar is not worth a look for that alone', () => {
  const opened = jar('Salt', 0.8, undefined, ['opened'])
  expect(isIn('look', opened, false)).toBe(false)
  expect(isIn('all', opened, false)).toBe(true)
  expect(jars.filter((j) => isIn('date', j, false)).map((j) => j.name)).toEqual(['Citric acid'])
  expect(jars.filter((j) => isIn('low', j, false)).map((j) => j.name)).toEqual(['Alum'])
  expect(isIn('own', opened, true)).toBe(true)
  expect(isIn('own', opened, false)).toBe(false)
})
