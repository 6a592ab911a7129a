import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '../api/client'
import GoodSheet from './GoodSheet.vue'
import HazardScreen from './HazardScreen.vue'
import UseCard from './UseCard.vue'

const finding: Schemas['HazardFinding'] = {
  code: 'H318',
  name: 'serious eye damage',
  text: 'Causes serious eye damage.',
  because: '30 % percarbonate, of a limit of 25 %',
  rule: 'table 3.3.3',
  sum: 30,
  limit: 25,
  unit: '%',
  below: false,
  from: [],
  less: {
    material: 'sodium-percarbonate',
    name: 'Sodium percarbonate',
    share: 0.07,
    says: '7 % less percarbonate and this goes',
  },
}
const screen: Schemas['Hazard'] = {
  notice: 'A screen, not a classification.',
  signal_word: 'danger',
  pictograms: ['GHS05'],
  statements: [finding],
  precautions: [{ code: 'P102', text: 'Keep out of reach of children.' }],
  near: [],
  possible: [],
  cleared: [],
  unknown: [],
  unknown_share: 0,
  notes: [],
  child_proof: true,
  tactile_warning: false,
}

describe('the hazard screen', () => {
  it('says the word, the statement, why, and what would bring it under', () => {
    const text = mount(HazardScreen, { props: { hazard: screen } }).text()
    for (const said of [
      'Danger',
      'Causes serious eye damage.',
      'of a limit of 25 %',
      '7 % less percarbonate',
      'not a classification',
      'children cannot open',
    ])
      expect(text).toContain(said)
  })
  it('draws each symbol with a name that can be read aloud', () => {
    const symbol = mount(HazardScreen, { props: { hazard: screen } }).find('img')
    expect(symbol.attributes('alt')).toBe('corrosion')
  })
  it('never calls what is not known harmless', () => {
    const none = { ...screen, signal_word: '' as const, pictograms: [], statements: [], precautions: [] }
    expect(mount(HazardScreen, { props: { hazard: none } }).text()).toContain('Nothing in it reaches a limit')
    const unknown = { ...none, unknown: ['Mystery salt'], unknown_share: 0.25 }
    const text = mount(HazardScreen, { props: { hazard: unknown } }).text()
    expect(text).toContain('Of 25 % of it nothing is known: Mystery salt')
    expect(text).not.toContain('Nothing in it reaches a limit')
  })
})

const card: Schemas['UseCard'] = {
  id: 'kettle',
  task: 'Lime in a kettle',
  surfaces: ['kettle'],
  strength: '1 part to 1',
  how: 'Warm it.',
  leave: '30 minutes',
  rinse: true,
  not_on: ['aluminium'],
  own: false,
  goods: [],
  warned: ['aluminium'],
  order: 'Never with bleach.',
}

describe('a use card', () => {
  it('says on what never before how strong', () => {
    const text = mount(UseCard, { props: { card } }).text()
    expect(text.indexOf('Not on')).toBeGreaterThan(0)
    expect(text.indexOf('Not on')).toBeLessThan(text.indexOf('1 part to 1'))
    expect(text).toContain('you asked about aluminium')
    expect(text).toContain('Never with bleach.')
  })
})

describe('the page of a jar', () => {
  const page: Schemas['JarPage'] = {
    workshop: 'Lockside Works',
    name: 'Towpath',
    kind_name: 'Laundry powder',
    code: 'TOW-1/3',
    net: '700 g',
    signal_word: 'warning',
    pictograms: [],
    statements: [{ code: 'H319', text: 'Causes serious eye irritation.' }],
    precautions: [],
    doses: [{ where: 'Front loader, about 20 l', much: '2 tbsp', says: '' }],
    cards: [card],
    contact: 'knock at the toll house',
    notice: 'A screen.',
    past: true,
    best_before: '2026-11-01',
  }
  it('says what the label says, the dose, whom to ask, and that it is past its day', () => {
    const text = mount(GoodSheet, { props: { page } }).text()
    for (const said of [
      'Towpath',
      '700 g',
      'Warning',
      'Causes serious eye irritation.',
      '2 tbsp',
      'knock at the toll house',
      'past that day',
    ])
      expect(text).toContain(said)
  })
})
