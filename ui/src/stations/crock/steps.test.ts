import { describe, expect, it } from 'vitest'

import { moveLine, moveStep, putLast, removeLine, toggleLine } from './steps'
import { emptyFormula, type FormulaFile } from './useDraft'

const formula = (): FormulaFile => ({
  ...emptyFormula(),
  lines: ['a', 'b', 'c', 'd'].map((material) => ({ material, amount: '1 g' })),
  steps: [{ kind: 'weigh' }, { kind: 'mix', lines: [0, 1] }, { kind: 'add', lines: [3] }],
})
const named = (f: FormulaFile) =>
  f.steps?.map((s) => (s.lines ?? []).map((l) => f.lines[l]?.material).join(''))

describe('steps', () => {
  it('name the same lines after those have moved', () => {
    for (const [from, to] of [
      [0, 3],
      [3, 0],
      [1, 2],
      [2, 2],
    ] as const) {
      const f = formula()
      moveLine(f, from, to)
      expect(named(f)?.map((n) => [...n].sort().join(''))).toEqual(['', 'ab', 'd'])
    }
  })

  it('let go of a line that is taken out', () => {
    const f = formula()
    removeLine(f, 1)
    expect(named(f)).toEqual(['', 'a', 'd'])
  })

  it('take a line once', () => {
    const f = formula()
    toggleLine(f, 1, 3)
    expect(named(f)).toEqual(['', 'abd', ''])
    toggleLine(f, 1, 3)
    expect(named(f)).toEqual(['', 'ab', ''])
  })

  it('take a line last, at a step of its own', () => {
    const f = formula()
    putLast(f, 0, (kind) => kind === 'mix' || kind === 'add')
    expect(named(f)).toEqual(['', 'b', 'd', 'a'])
    putLast(f, 1, (kind) => kind === 'mix' || kind === 'add')
    expect(named(f)).toEqual(['', '', 'd', 'a', 'b'])
  })

  it('are put into another order, and no further than their ends', () => {
    const f = formula()
    moveStep(f, 2, 1)
    expect(f.steps?.map((s) => s.kind)).toEqual(['weigh', 'add', 'mix'])
    moveStep(f, 0, -1)
    expect(f.steps?.[0]?.kind).toBe('weigh')
  })
})
