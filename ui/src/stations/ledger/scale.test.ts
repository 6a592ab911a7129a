import { describe, expect, it } from 'vitest'

import { between, ticks } from './scale'

describe('an axis', () => {
  it('has round steps that reach its end', () => {
    expect(ticks(9.3)).toEqual([0, 5, 10])
    expect(ticks(4)).toEqual([0, 1, 2, 3, 4])
    expect(ticks(0.37).map((t) => Number(t.toFixed(2)))).toEqual([0, 0.1, 0.2, 0.3, 0.4])
    expect(ticks(0)).toEqual([0])
    for (const most of [0.01, 1, 7, 123, 9999]) expect(ticks(most).at(-1)).toBeGreaterThanOrEqual(most)
  })
  it('places values between its ends', () => {
    expect(between(5, 0, 10, 0, 100)).toBe(50)
    expect(between(5, 5, 5, 0, 100)).toBe(50)
  })
})
