import { describe, expect, it } from 'vitest'

import { boards, type Thing } from './shelves'

const now = new Date('2026-11-25T12:00:00').getTime()
const thing = (name: string, at?: string): Thing => ({
  batch: name,
  code: name,
  name,
  state: 'standing',
  shape: 'tray',
  step: 1,
  step_name: 'Dry',
  what: '',
  since: '2026-11-25T08:00:00',
  due: at ? [{ kind: 'ready', what: 'dry', at, late: false, step: 1 }] : [],
})

describe('boards', () => {
  it('stand by what is due next, and only those that hold something', () => {
    const all = boards(
      [
        thing('late', '2026-11-25T11:00:00'),
        thing('evening', '2026-11-25T20:00:00'),
        thing('friday', '2026-11-27T09:00:00'),
        thing('spring', '2027-03-01T09:00:00'),
        thing('whenever'),
      ],
      now,
    )
    expect(all.map((b) => [b.name, b.things.map((t) => t.name)])).toEqual([
      ['now', ['late']],
      ['today', ['evening']],
      ['this week', ['friday']],
      ['later', ['spring', 'whenever']],
    ])
    expect(boards([], now)).toEqual([])
  })
})
