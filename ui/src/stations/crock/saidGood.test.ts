import { describe, expect, it } from 'vitest'

import { moveWords, takeSaid, type Said } from './saidGood'
import { emptyFormula } from './useDraft'

const said = (over: Partial<Said['formula']>, words: Said['words'] = []): Said => ({
  formula: { format: 'keencrock/formula', version: 3, name: 'Other good', kind: 'other', lines: [], ...over },
  words,
  questions: [],
  not: [],
})

describe('what was said, taken into a formula', () => {
  it('takes lines, name, kind, dose, yield and steps of a new one', () => {
    const f = emptyFormula()
    takeSaid(
      f,
      said(
        {
          name: 'Dishwasher tabs',
          kind: 'dish-tab',
          lines: [{ material: 'borax', amount: '1 cup' }],
          yield: { amount: '24 tabs' },
          uses: { amount: '1 tab' },
          method: 'Press.',
          steps: [{ kind: 'press' }],
          said: 'tabs: a cup of borax',
        },
        [{ text: 'tabs', from: 0, to: 4, became: 'name' }],
      ),
    )
    expect(f).toMatchObject({
      name: 'Dishwasher tabs',
      kind: 'dish-tab',
      yield: { amount: '24 tabs' },
      uses: { amount: '1 tab' },
      said: 'tabs: a cup of borax',
    })
    expect(f.steps).toHaveLength(1)
  })

  it('keeps the name and the steps that are there', () => {
    const f = {
      ...emptyFormula(),
      name: 'Mine',
      lines: [{ material: 'borax', amount: '1 cup' }],
      steps: [{ kind: 'mix' }],
      method: 'Mix.',
    }
    takeSaid(f, said({ name: 'Spray', lines: f.lines, method: 'Strain.', steps: [{ kind: 'strain' }] }))
    expect(f.name).toBe('Mine')
    expect(f.steps).toEqual([{ kind: 'mix' }])
    expect(f.method).toBe('Mix.\nStrain.')
  })

  it('notes once what it does not hold', () => {
    const f = emptyFormula()
    const s = { ...said({}), not: [{ material: 'white-vinegar', name: 'White vinegar' }] }
    takeSaid(f, s)
    takeSaid(f, s)
    expect(f.notes).toBe('Holds no white vinegar.')
  })

  it('moves words where they belong', () => {
    const f = emptyFormula()
    moveWords(f, 'moon dust,', 'line')
    moveWords(f, 'stir until it is cool', 'step')
    moveWords(f, '1 tbsp', 'use')
    expect(f.lines).toEqual([{ material: 'moon dust', amount: '' }])
    expect(f.method).toBe('Stir until it is cool.')
    expect(f.uses?.amount).toBe('1 tbsp')
  })
})
