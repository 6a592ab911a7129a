import { describe, expect, it, test } from 'vitest'

import cases from '../../../core/making/testdata/suggest.json'
import type { Schemas } from './client'
import { foresee, suggest } from './foresee'

interface Case {
  what: string
  left: number
  lots: { available: number; past?: boolean }[]
  take: number[]
}

// The same cases hold the server's side: core/making/suggest_test.go.
describe('what to take of which lot', () => {
  it.each(cases as Case[])('$what', ({ left, lots, take }) => {
    const from = suggest(
      lots.map((l, i) => ({
        lot: String(i),
        code: String(i),
        available_g: l.available,
        past: l.past,
        weighed_g: 0,
        suggested_g: 0,
      })),
      left,
    )
    expect(lots.map((_, i) => from.get(String(i)) ?? 0)).toEqual(take)
  })
})

const lot = (code: string, available_g: number, suggested_g: number) => ({
  lot: code,
  code,
  available_g,
  suggested_g,
  weighed_g: 0,
})

test('what was weighed from a lot is gone from it, for this line and for others', () => {
  const line = (n: number, material: string, target_g: number, lots: Schemas['BatchLot'][]) =>
    ({
      line: n,
      material,
      target_g,
      weighed_g: 0,
      left_g: target_g,
      tolerance_g: 1,
      status: 'waiting',
      lots,
    }) as unknown as Schemas['BatchLine']
  const before = {
    weighed_g: 0,
    lines: [
      line(0, 'washing-soda', 2138, [lot('A', 2077, 2077), lot('B', 500, 61)]),
      line(1, 'washing-soda', 2077, [lot('A', 2077, 2077), lot('B', 500, 0)]),
      line(2, 'borax', 100, [lot('A', 2077, 100)]),
    ],
  } as unknown as Schemas['Batch']
  const after = foresee(before, '/api/batches/{id}/weighings', { line: 0, lot: 'A', grams: 61 })
  const taken = (n: number) => after.lines[n]?.lots.map((l) => [l.available_g, l.suggested_g])
  expect(taken(0)).toEqual([
    [2016, 2016],
    [500, 61],
  ])
  expect(taken(1)).toEqual([
    [2016, 2016],
    [500, 61],
  ])
  expect(taken(2)).toEqual([[2077, 100]])
})
