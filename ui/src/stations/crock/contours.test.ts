import { describe, expect, it } from 'vitest'

import { above, below, roundLevels } from './contours'

// a plane that rises by one from left to right
const plane = Array.from({ length: 5 }, () => [0, 1, 2, 3, 4])
const xs = (path: string) => [...path.matchAll(/[ML](\d+\.\d) /g)].map((m) => Number(m[1]))

describe('contours', () => {
  it('stand at round numbers within the ends', () => {
    expect(roundLevels(7.13, 10.4)).toEqual([7.5, 8, 8.5, 9, 9.5, 10])
    expect(roundLevels(3, 3)).toEqual([])
  })

  it('lie where the value is', () => {
    const path = above({ rows: plane, size: 100 }, [2])[0]?.path ?? ''
    expect(Math.min(...xs(path))).toBeCloseTo(50, 0)
    expect(Math.max(...xs(path))).toBe(100)
  })

  it('turn round for what is below', () => {
    const part = below({ rows: plane, size: 100 }, 1)[0]
    expect(Math.max(...xs(part?.path ?? ''))).toBeCloseTo(25, 0)
    expect(part?.value).toBe(1)
  })

  it('leave open where there is nothing', () => {
    const rows = [
      [null, null],
      [null, null],
    ]
    expect(above({ rows, size: 100 }, [1])[0]?.path).toBe('')
  })
})
