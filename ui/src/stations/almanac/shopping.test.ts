import { expect, test } from 'vitest'

import { lineOf } from './shopping'

test('a line of the list is what the shelf reads as a delivery', () => {
  const soda = {
    material: 'washing-soda',
    name: 'Washing soda',
    grams: 1720,
    supplier: 'Quayside',
    packs: 2,
    pack_g: 1000,
  }
  expect(lineOf(soda)).toBe('2 x 1000 g washing soda from Quayside')
  expect(lineOf({ ...soda, supplier: undefined })).toBe('2 x 1000 g washing soda')
  expect(lineOf({ material: 'moss', name: 'Moss', grams: 12.2 })).toBe('13 g moss')
})
