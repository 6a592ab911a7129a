import { describe, expect, it } from 'vitest'

import { clock } from './useClock'

describe('clock', () => {
  it('shows minutes and seconds, and hours where there are any', () => {
    expect([0, 5, 65, 600, 3599.6, 3723].map(clock)).toEqual([
      '0:00',
      '0:05',
      '1:05',
      '10:00',
      '1:00:00',
      '1:02:03',
    ])
    expect(clock(-4)).toBe('0:00')
  })
})
