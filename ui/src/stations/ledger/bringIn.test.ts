import { describe, expect, it } from 'vitest'

import { letters, matched, rowsOf } from './bringIn'

describe('a sheet that is brought in', () => {
  it('has its columns matched by their heads, each once', () => {
    expect(matched('sales', ['Date', 'Product', 'Qty', 'Customer', 'Weather'])).toEqual({
      day: 0,
      good: 1,
      jars: 2,
      to: 3,
    })
    expect(matched('sales', ['what', 'name'])).toEqual({ good: 0 })
    expect(matched('outlets', ['Phone', 'Name'])).toEqual({ name: 1, reach: 0 })
  })
  it('remembers what somebody matched', () => {
    expect(matched('sales', ['Weather', 'Product'], { to: 'weather' })).toEqual({ to: 0, good: 1 })
  })
  it('keeps the line of the file with each row', () => {
    const read = {
      head: ['a', 'b'],
      rows: [
        ['x', ''],
        ['', 'y'],
      ],
      first: 3,
    }
    expect(rowsOf(read, { name: 0, note: 1 })).toEqual([
      { row: 3, name: 'x' },
      { row: 4, note: 'y' },
    ])
  })
  it('calls columns as spreadsheets do', () => {
    expect([0, 25, 26, 51, 52].map(letters)).toEqual(['A', 'Z', 'AA', 'AZ', 'BA'])
  })
})
