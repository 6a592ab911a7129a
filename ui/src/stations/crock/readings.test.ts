import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import ChemistryReadings from './ChemistryReadings.vue'
import { useWater } from './useWater'
import WaterBar from './WaterBar.vue'

const range = (value: number, low = value, high = value) => ({ value, low, high })

function chemistry(over: Partial<Schemas['Chemistry']> = {}): Schemas['Chemistry'] {
  return {
    use: { grams_per_litre: 0.653, basis: 'of-use', hardness_mmol_per_l: 2.68, celsius: 25 },
    ph: { closed: 9.1, vented: 9.1 },
    ph_range: { closed: range(9.1, 9.0, 9.2), vented: range(9.1) },
    beyond_model: false,
    ionic_strength: 0.01,
    buffer_mmol_per_ph: 3,
    free_alkalinity_g_per_l_na2o: 0.2,
    free_alkalinity_range: range(0.2, 0.19, 0.21),
    titration_mmol_per_l: { to_8_3: 2, to_4_5: 9 },
    co2_ml_per_kg: 0,
    co2_range: range(0),
    co2_mg_per_kg: 0,
    gas_limited_by: 'none',
    soda_spent_share: 0,
    spent_in_bowl_share: 0,
    has_soap: true,
    soap_curdled_share: 0.07,
    soap_curdled_range: range(0.07),
    hardness: {
      total: 2.68,
      met_by_precipitation: 2,
      met_by_chelation: 0,
      taken_by_soap: 0.14,
      left: 0.54,
      soap_g_per_l: 0.08,
      soap_lost_g_per_l: 0.08,
      soap_lost_share: 1,
    },
    undissolved: [],
    unknown: [],
    held_at_25: [],
    caking_above_rh: 84,
    caking: { culprit: 'washing-soda', culprit_name: 'Washing soda', without: [] },
    ...over,
  }
}

const shown = (over: Partial<Schemas['Chemistry']> = {}) =>
  mount(ChemistryReadings, { props: { chemistry: chemistry(over) } }).text()

describe('ChemistryReadings', () => {
  it('weighs the soap by the thresholds of the cautions', () => {
    expect(shown()).toContain('safe')
    expect(shown({ soap_curdled_share: 0.3 })).toContain('30 % is lost')
    expect(shown({ soap_curdled_share: 0.9 })).toContain('90 % curdles')
  })

  it('says a range and no digit beyond the model', () => {
    const text = shown({
      beyond_model: true,
      ph_range: { closed: range(9.8, 9.4, 10.3), vented: range(9.8) },
    })
    expect(text).toContain('9.4–10.3')
    expect(text).toContain('too strong for the model')
  })

  it('names the material it cannot vouch for, and what it would need', () => {
    const text = shown({
      unknown: [{ material: 'wood-ash', name: 'Wood ash', needs: 'its make-up by mass' }],
    })
    expect(text).toContain('It cannot vouch for Wood ash')
    expect(text).toContain('its make-up by mass')
  })

  it('calls it acid when acid is left over', () => {
    const text = shown({ free_alkalinity_g_per_l_na2o: -0.5 })
    expect(text).toContain('Acid left over')
    expect(text).toContain('0.5 g/l')
  })

  it('says which side of the fizz runs out, and what is left', () => {
    const text = shown({
      co2_ml_per_kg: 71_400,
      co2_mg_per_kg: 128_000,
      gas_limited_by: 'acid',
      gas_left: { material: 'sodium-bicarbonate', name: 'Baking soda', g_per_kg: 540 },
    })
    expect(text).toContain('71.4 l')
    expect(text).toContain('the acid runs out first')
    expect(text).toContain('540 g of baking soda')
  })

  it('leaves out what is not there', () => {
    const text = shown({ has_soap: false, hardness: { ...chemistry().hardness, total: 0 } })
    expect(text).not.toContain('Soap')
    expect(text).not.toContain('Hardness met')
    expect(text).not.toContain('Fizz')
  })

  it('tells what is already curdled in the bottle', () => {
    expect(shown({ in_bottle: { ph: 8.2, soap_curdled_share: 0.33 } })).toContain(
      '33 % already in the bottle',
    )
  })

  it('puts a sign beside every colour', () => {
    const part = mount(ChemistryReadings, { props: { chemistry: chemistry({ soap_curdled_share: 0.9 }) } })
    for (const v of part.findAll('.value.stop, .value.watch, .value.good'))
      expect(v.find('.sign').exists()).toBe(true)
  })
})

describe('useWater', () => {
  it('asks only for what was said', () => {
    const { query, ask } = useWater()
    expect(query.value).toEqual({})
    ask({ strength: ' 10 g/l ', celsius: 40 })
    expect(query.value).toEqual({ use: '10 g/l', celsius: 40 })
    ask({ strength: '', hardness: '15 °dH', celsius: 25 })
    expect(query.value).toEqual({ hardness: '15 °dH' })
  })
})

describe('WaterBar', () => {
  it('shows what is taken when nothing is said, and asks for what is typed', async () => {
    const water = useWater()
    const bar = mount(WaterBar, { props: { water, chemistry: chemistry() } })
    expect(bar.find('input[name=strength]').attributes('placeholder')).toBe('0.653 g/l')
    expect(bar.text()).toContain('one use in its water')
    await bar.find('input[name=strength]').setValue('10 g/l')
    expect(water.query.value).toEqual({ use: '10 g/l' })
    await bar.find('input[name=celsius]').setValue('')
    expect(water.asked.celsius).toBe(25)
  })

  it('says what is wrong instead', () => {
    const bar = mount(WaterBar, {
      props: { water: useWater(), chemistry: chemistry(), trouble: 'That is no strength.' },
    })
    expect(bar.find('[role=alert]').text()).toBe('That is no strength.')
  })
})

describe('CautionList', () => {
  it('names how grave each is in words, not by colour alone', () => {
    const list = mount(CautionList, {
      props: {
        cautions: (['stop', 'warn', 'note'] as const).map((severity) => ({
          code: severity,
          severity,
          context: 'same-pot-wet' as const,
          materials: ['borax'],
          text: `A ${severity}.`,
          advice: 'Mind it.',
        })),
      },
    })
    expect(list.text()).toContain('stop')
    expect(list.text()).toContain('mind')
    expect(list.text()).toContain('note')
  })
})
