import { describe, expect, it, vi } from 'vitest'

import {
  between,
  figures,
  fromNow,
  grams,
  life,
  millilitres,
  money,
  onScale,
  percent,
  spread,
  times,
  within,
} from './words'

describe('words', () => {
  it('tells a day in days, however late it is', () => {
    vi.useFakeTimers({ now: new Date('2026-11-29T16:30:00') })
    expect(['2026-11-28', '2026-11-29', '2026-11-30', '2026-11-20'].map(fromNow)).toEqual([
      'yesterday',
      'today',
      'tomorrow',
      '9 days ago',
    ])
    expect(fromNow('2026-11-29T14:30:00')).toBe('2 hours ago')
    vi.useRealTimers()
  })

  it('writes masses to the precision that is real', () => {
    expect([0, 4.6, 27.44, 227.4, 8400, 12_345].map(grams)).toEqual([
      '0 g',
      '4.60 g',
      '27.4 g',
      '227 g',
      '8.40 kg',
      '12.3 kg',
    ])
  })

  it('writes what a scale shows to its step', () => {
    expect(onScale(2114, 1)).toBe('2114 g')
    expect(onScale(-1, 1)).toBe('−1 g')
    expect(onScale(-0.2, 1)).toBe('0 g')
    expect(onScale(4.6, 0.1)).toBe('4.6 g')
    expect(onScale(4.6, 0.02)).toBe('4.60 g')
    expect(onScale(12_345, 5)).toBe('12345 g')
    expect(onScale(70, 1)).toBe('70 g')
  })

  it('says a range only where there is one', () => {
    expect(spread({ value: 200, low: 150, high: 260 })).toBe('150–260 g')
    expect(spread({ value: 20, low: 15.25, high: 26 })).toBe('15.3–26.0 g')
    expect(spread({ value: 200, low: 200, high: 200 })).toBe('')
    expect(spread({ value: 119, low: 118.6, high: 119.4 })).toBe('') // not “119–119 g”
  })

  it('writes small money with a tenth of a cent', () => {
    expect(money('0.0274', 'EUR')).toBe('€0.027')
    expect(money('12.5', 'EUR')).toBe('€12.50')
    expect(money(undefined, 'EUR')).toBe('–')
  })

  it('says lives as people do', () => {
    expect([14, 60, 270, 365, 730].map(life)).toEqual([
      '14 days',
      '9 weeks',
      '9 months',
      '12 months',
      '2 years',
    ])
  })

  it('writes shares and volumes', () => {
    expect(between({ value: 0.75, low: 0.71, high: 0.8 })).toBe('71 % to 80 %')
    expect(between({ value: 1, low: 0.998, high: 1 })).toBe('100 %')
    expect([0.334, 0.004, 0, 1].map(percent)).toEqual(['33 %', '0.4 %', '0 %', '100 %'])
    expect([250, 1900].map(millilitres)).toEqual(['250 ml', '1.9 l'])
  })
})

describe('figures', () => {
  it('gives three figures and no more', () => {
    expect(figures(0.04217)).toBe('0.0422')
    expect(figures(2.678)).toBe('2.68')
    expect(figures(105.4)).toBe('105')
    expect(figures(71400)).toBe('71,400')
    expect(figures(0.0000001)).toBe('0')
    expect(figures(-0.67)).toBe('-0.67')
  })
})

describe('within', () => {
  it('is silent about what is exact', () => {
    expect(within({ value: 2, low: 2, high: 2 })).toBe('')
    expect(within({ value: 2, low: 1.5, high: 2.5 })).toBe(', 1.5 to 2.5')
  })
})

describe('times', () => {
  it('says how often', () => {
    expect(times(10.83)).toBe('10.8 times')
    expect(times(0.25)).toBe('0.25 times')
  })
})
