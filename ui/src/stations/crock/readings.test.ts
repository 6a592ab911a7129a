import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import ChemistryReadings from './ChemistryReadings.vue'
import { chemistry, range } from './fixture'
import { useWater } from './useWater'
import WaterBar from './WaterBar.vue'

const shown = (over: Partial<Schemas['Chemistry']> = {}) =>
  mount(ChemistryReadings, { props: { chemistry: chemistry(over) } }).text()

describe('ChemistryReadings', () => {
  const soap = (verdict: Schemas['Verdict'], share: number, inBottle?: number) =>
    shown({
      soap_curdled_by_good: share,
      verdicts: { ...chemistry().verdicts, soap: verdict },
      ...(inBottle === undefined ? {} : { in_bottle: { ph: 6.2, soap_curdled_share: inBottle } }),
    })

  it('says of the soap what the server judged, and judges nothing itself', () => {
    expect(soap('good', 0.07)).toContain('safe')
    expect(soap('watch', 0.3)).toContain('30 % is lost')
    expect(soap('stop', 0.9)).toContain('90 % curdles')
    expect(soap('good', 0.9)).toContain('safe')
    expect(shown()).toContain('Over 10 % is a warning, over 50 % a stop')
  })

  it('tells of the bottle and weighs the soap where it fares worse', () => {
    expect(soap('stop', 0.02, 0.96)).toContain('96 % curdles')
    expect(soap('stop', 0.02, 0.96)).toContain('96 % already in the bottle, at pH 6.2')
    expect(soap('watch', 0.3, 0.04)).toContain('30 % is lost')
    expect(soap('watch', 0.3, 0.04)).toContain('4 % already in the bottle')
    expect(soap('watch', 0.3, 0.004)).not.toContain('in the bottle')
  })

  it('does not call soap safe that the hardness takes, without saying so', () => {
    expect(soap('watch', 0)).toContain('is scum')
    expect(soap('watch', 0)).toContain('safe from acid, but the hardness of your water takes it')
    const soft = { ...chemistry().verdicts, hardness: 'good' as const }
    expect(shown({ verdicts: soft })).not.toContain('but the hardness takes it')
  })

  it('marks the pH twice only where the gas moves it', () => {
    const both = { closed: range(6.4), vented: range(8.9) }
    expect(shown({ ph_range: both, gas_shifts_ph: true })).toContain('6.4 → 8.9')
    expect(shown({ ph_range: both, gas_shifts_ph: false })).not.toContain('→')
  })

  it('hatches what burns, and says between what', () => {
    const limits = { ...chemistry().limits, burns_below_ph: 3, burns_above_ph: 12 }
    const part = mount(ChemistryReadings, { props: { chemistry: chemistry({ limits }) } })
    expect(part.text()).toContain('below 3 and above 12')
    const [acid, alkali] = part.findAll('.ph-strip rect[fill="url(#burns)"]')
    const scale = (336 - 16) / 14
    expect(Number(acid?.attributes('width'))).toBeCloseTo(3 * scale)
    expect(Number(alkali?.attributes('x'))).toBeCloseTo(8 + 12 * scale)
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

  it('opens with what to do, then what it is, before the arithmetic', () => {
    const part = mount(ChemistryReadings, {
      props: {
        chemistry: chemistry({
          soap_curdled_by_good: 0.9,
          verdicts: { ...chemistry().verdicts, soap: 'stop', ph: 'watch' },
        }),
      },
    })
    const opened = (what: string) =>
      part
        .findAll('.reading')
        .find((r) => r.find('.what').text() === what)
        ?.find('.why')
    expect(opened('Soap')?.find('p').text()).toContain('two bottles')
    expect(opened('pH')?.find('p').text()).toContain('Gloves and glasses')
    for (const r of part.findAll('.reading')) {
      const said = r.find('.why').text()
      expect(said.indexOf('How it is reckoned')).toBeGreaterThan(40)
      expect(r.find('.what').text() + r.find('.value').text()).not.toMatch(/mmol|Na₂O|RH/)
    }
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
    expect(text).not.toContain('Hardness your water')
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
          of: 'bottle' as const,
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
