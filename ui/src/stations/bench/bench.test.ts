import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '../../api/client'
import LotPick from './LotPick.vue'
import ScaleMeter from './ScaleMeter.vue'

const line = { weighed_g: 0, target_g: 500, tolerance_g: 5 } as Schemas['BatchLine']
const reading = (grams: number, over: Partial<Schemas['ScaleReading']> = {}): Schemas['ScaleReading'] => ({
  grams,
  stable: true,
  overload: false,
  step_g: 1,
  ...over,
})
const meter = (r: Schemas['ScaleReading'] | null, over: Partial<Schemas['BatchLine']> = {}, wantedG = 500) =>
  mount(ScaleMeter, {
    props: {
      wantedG,
      line: { ...line, ...over },
      scale: true,
      byHand: '',
      reading: r,
      typedG: NaN,
      stepG: 1,
    },
  })

describe('ScaleMeter', () => {
  it('fills up to the mark and no further than the bar', () => {
    expect(meter(reading(0)).find('.fill').attributes('style')).toContain('width: 0%')
    expect(meter(reading(250)).find('.fill').attributes('style')).toContain('width: 40%')
    expect(meter(reading(500)).find('.fill').attributes('style')).toContain('width: 80%')
    expect(meter(reading(5000)).find('.fill').attributes('style')).toContain('width: 100%')
  })

  it('is good within the tolerance, and too much only beyond it', () => {
    const classes = (g: number) => meter(reading(g)).find('.live').classes()
    expect(classes(494)).toEqual(['live'])
    expect(classes(496)).toContain('ok')
    expect(classes(505)).toContain('ok')
    expect(classes(505)).not.toContain('much')
    expect(classes(506)).toContain('much')
  })

  it('says when the scale settles, bears no more, or is not there', () => {
    expect(meter(reading(480, { stable: false })).text()).toContain('settling')
    expect(meter(reading(20_000, { overload: true })).text()).toContain('too heavy')
    expect(meter(null).find('[data-testid=reading]').text()).toBe('–')
  })

  it('shows no scale where none is on the bench, and fills with what is typed', async () => {
    const without = meter(null)
    await without.setProps({ scale: false, typedG: 250 })
    expect(without.find('[data-testid=reading]').exists()).toBe(false)
    expect(without.find('.fill').attributes('style')).toContain('width: 40%')
  })

  it('says the scoop large where it is scooped, and the grams beside it', async () => {
    const scooped = meter(null)
    await scooped.setProps({ scale: false, byHand: '2 cups' })
    expect(scooped.find('[data-testid=target]').text()).toBe('2 cups')
    expect(scooped.text()).toContain('about 500 g, levelled off')
  })

  it('shows what is in the bowl already', () => {
    expect(meter(reading(0), { weighed_g: 300 }, 200).text()).toContain('300 g of 500 g done')
    expect(meter(reading(0)).text()).not.toContain('done')
  })

  it('is never good when nothing is wanted', () => {
    expect(meter(reading(0), {}, 0).find('.live').classes()).toEqual(['live'])
  })
})

describe('LotPick', () => {
  const lot = (over: Partial<Schemas['BatchLot']>): Schemas['BatchLot'] => ({
    lot: 'one',
    code: 'B-1',
    available_g: 900,
    suggested_g: 0,
    weighed_g: 0,
    past: false,
    clumped: false,
    ...over,
  })
  const pick = (lots: Schemas['BatchLot'][]) =>
    mount(LotPick, { props: { lots, modelValue: 'one', stepG: 1 } })

  it('says of each bag what to do with it', () => {
    const texts = pick([
      lot({ suggested_g: 200 }),
      lot({ lot: 'two', code: 'B-2', clumped: true }),
      lot({ lot: 'three', code: 'B-3', past: true, weighed_g: 40 }),
    ])
      .findAll('[role=radio]')
      .map((b) => b.text())
    expect(texts[0]).toContain('take 200 g')
    expect(texts[1]).toContain('not needed')
    expect(texts[1]).toContain('clumped: crush it')
    expect(texts[2]).toContain('past its date')
    expect(texts[2]).toContain('40.0 g in the bowl')
  })

  it('picks the bag that is pressed', async () => {
    const p = pick([lot({}), lot({ lot: 'two', code: 'B-2' })])
    expect(p.findAll('[role=radio]').map((b) => b.attributes('aria-checked'))).toEqual(['true', 'false'])
    await p.findAll('[role=radio]')[1]?.trigger('click')
    expect(p.emitted('update:modelValue')).toEqual([['two']])
  })

  it('says so when there is no bag', () => {
    expect(pick([]).text()).toContain('No lot of it is on the shelf')
  })
})
