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

  it('run even where a value is passed within one cell', () => {
    // a cliff along a slope: the grid alone would draw it as stairs
    const cliff = Array.from({ length: 33 }, (_, j) =>
      Array.from({ length: 33 }, (_, i) => (3 * i > 32 + j ? 1 : 0)),
    )
    const path = above({ rows: cliff, size: 320 }, [0.5])[0]?.path ?? ''
    const points = [...path.matchAll(/[ML](\d+\.\d) (\d+\.\d)/g)].map((m) => [Number(m[1]), Number(m[2])])
    const off = points
      .filter(([x = 0, y = 0]) => x > 40 && x < 280 && y > 40 && y < 280)
      .map(([x = 0, y = 0]) => Math.abs(x - (32 * 10 + (320 - y)) / 3))
    expect(off.length).toBeGreaterThan(20)
    expect(Math.max(...off) - Math.min(...off)).toBeLessThan(3) // a third of a cell of 10
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
