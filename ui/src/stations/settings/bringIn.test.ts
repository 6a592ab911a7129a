import { describe, expect, it } from 'vitest'

import { letters, matched, parted, rowsOf, unitOf } from './bringIn'

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

describe('a sheet of formulas', () => {
  it('is not parted within a formula, whose name may stand on its first row only', () => {
    const rows = [
      { row: 2, formula: 'A', material: 'borax' },
      { row: 3, material: 'salt' },
      { row: 4, formula: 'B', material: 'borax' },
      { row: 5, formula: 'B', material: 'salt' },
    ]
    expect(parted('formulas', rows, 1).map((part) => part.map((r) => r.row))).toEqual([
      [2, 3],
      [4, 5],
    ])
    expect(parted('lots', rows, 3).map((part) => part.length)).toEqual([3, 1])
  })
  it('gives a mere number the unit of its column, or of the one beside it', () => {
    const read = {
      head: ['recipe', 'item', 'weight (g)', 'unit'],
      rows: [
        ['A', 'borax', '200', ''],
        ['', 'oil', '10', 'drops'],
        ['', 'salt', '1 cup', ''],
      ],
      first: 2,
    }
    expect(rowsOf(read, { formula: 0, material: 1, amount: 2, unit: 3 })).toEqual([
      { row: 2, formula: 'A', material: 'borax', amount: '200 g' },
      { row: 3, material: 'oil', amount: '10 drops' },
      { row: 4, material: 'salt', amount: '1 cup' },
    ])
    expect(['grams', 'Weight (kg)', 'amount', 'ml'].map(unitOf)).toEqual(['g', 'kg', '', 'ml'])
  })
  it('has its columns matched', () => {
    expect(matched('formulas', ['Recipe', 'Ingredient', 'Grams'])).toEqual({
      formula: 0,
      material: 1,
      amount: 2,
    })
    expect(matched('lots', ['Date', 'Item', 'Weight', 'Price', 'From'])).toEqual({
      received: 0,
      material: 1,
      amount: 2,
      price: 3,
      supplier: 4,
    })
  })
})
