import { describe, expect, it } from 'vitest'

import { lanes } from './lanes'

describe('bars on a band of time', () => {
  it('stand beside each other where they overlap, and one after the other where they do not', () => {
    const { bars, count } = lanes([
      { from: 2, to: 4, name: 'b' },
      { from: 0, to: 2, name: 'a' },
      { from: 1, to: 3, name: 'c' },
    ])
    expect(count).toBe(2)
    expect(bars.map((b) => [b.name, b.lane])).toEqual([
      ['a', 0],
      ['c', 1],
      ['b', 0],
    ])
  })
  it('have one lane where there are none', () => expect(lanes([]).count).toBe(1))
})
