import { describe, expect, it } from 'vitest'

import { csv, holds, typed } from './table'

describe('lists of hundreds', () => {
  it('are searched by words in any order', () => {
    expect(holds('Towpath Plain, without borax', 'plain tow')).toBe(true)
    expect(holds('Towpath Plain, without borax', 'heron')).toBe(false)
    expect(holds('anything', '')).toBe(true)
  })

  it('know which columns are numbers or days, and which are codes', () => {
    expect(
      typed([
        ['D260601', '4.50', 3, '2026-06-01', '007', undefined],
        ['12', '', -2.5, '2027-01-31', '7', undefined],
      ]),
    ).toEqual([1, 2, 3])
  })

  it('are written as a spreadsheet reads them, and reckon nothing out', () => {
    expect(
      csv([
        ['name', 'lines'],
        ['Sluice, "strong"', 3],
        ['=SUM(A1)', -2],
      ]),
    ).toBe('name,lines\r\n"Sluice, ""strong""",3\r\n\'=SUM(A1),-2\r\n')
  })
})
