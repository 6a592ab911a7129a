import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import { session } from '../../api/session'
import { emptyFormula, useDraft } from './useDraft'

const stored = {
  id: 'x',
  version: 3,
  file: { ...emptyFormula(), name: 'Towpath', lines: [{ material: 'borax', amount: '1 cup' }] },
}

function open(id = 'x') {
  const d = useDraft(id)
  d.load(stored)
  return d
}

describe('useDraft', () => {
  beforeEach(() => localStorage.clear())

  it('keeps a draft for who wrote it, and says when the browser keeps no more', async () => {
    session.value = { person: { id: 'marl' } } as typeof session.value
    const d = open()
    d.change('name', (f) => (f.name = 'Bright'))
    await nextTick()
    session.value = { person: { id: 'reed' } } as typeof session.value
    expect(open().file.value.name).toBe('Towpath')
    session.value = { person: { id: 'marl' } } as typeof session.value
    expect(open().file.value.name).toBe('Bright')
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      removeItem: () => undefined,
      setItem: () => {
        throw new DOMException('', 'QuotaExceededError')
      },
    })
    d.change('name', (f) => (f.name = 'Brighter'))
    await nextTick()
    expect(d.full.value).toBe(true)
    vi.unstubAllGlobals()
    session.value = null
  })

  it('undoes and redoes every change', () => {
    const d = open()
    d.change('', (f) => f.lines.push({ material: 'table-salt', amount: '1 tsp' }))
    d.change('', (f) => f.lines.splice(0, 1))
    expect(d.file.value.lines).toHaveLength(1)
    d.undo()
    d.undo()
    expect(d.file.value).toEqual(stored.file)
    expect(d.dirty.value).toBe(false)
    d.redo()
    expect(d.file.value.lines).toHaveLength(2)
    d.undo()
    expect(d.canUndo.value).toBe(false)
  })

  it('takes typing in one field as one step', () => {
    const d = open()
    for (const name of ['T', 'To', 'Tow']) d.change('name', (f) => (f.name = name))
    d.change('uses', (f) => (f.uses = { amount: '1 tbsp' }))
    d.undo()
    expect(d.file.value.name).toBe('Tow')
    d.undo()
    expect(d.file.value.name).toBe('Towpath')
  })

  it('keeps a draft when the page is left and takes it up again', async () => {
    const d = open()
    d.change('', (f) => (f.name = 'Towpath two'))
    await nextTick()
    const again = open()
    expect(again.file.value.name).toBe('Towpath two')
    expect(again.dirty.value).toBe(true)
    again.kept({ id: 'x', file: again.file.value, version: 4 })
    await nextTick()
    expect(open().file.value.name).toBe('Towpath')
  })

  it('undoes after the page was loaded anew, and not onto a version of somebody else', async () => {
    const d = open()
    d.change('', (f) => (f.name = 'One'))
    d.change('', (f) => (f.name = 'Two'))
    d.undo()
    await nextTick()
    const again = open()
    expect(again.file.value.name).toBe('One')
    again.redo()
    expect(again.file.value.name).toBe('Two')
    again.undo()
    again.undo()
    expect(again.file.value.name).toBe('Towpath')
    await nextTick()
    expect(open().canRedo.value).toBe(true)

    const other = useDraft('x') // somebody else has kept version 4 meanwhile
    other.load({ file: { ...stored.file, name: 'Theirs' }, version: 4 })
    expect(other.file.value.name).toBe('Theirs')
    expect(other.canRedo.value).toBe(false)
  })

  it('loses nothing that is written while it is being kept', () => {
    const d = open('new')
    d.load(null)
    d.change('', (f) => (f.name = 'Quay'))
    const sent = d.file.value
    d.change('', (f) => (f.name = 'Quay Powder'))
    d.kept({ id: 'q', file: sent, version: 1 }, sent)
    expect(d.file.value.name).toBe('Quay Powder')
    expect(d.dirty.value).toBe(true)
    const again = useDraft('q')
    again.load({ file: sent, version: 1 })
    expect(again.file.value.name).toBe('Quay Powder')
    expect(again.base.value).toBe(1)
  })

  it('throws a draft away that cannot be read', () => {
    localStorage.setItem('keencrock-draft-x', '{broken')
    expect(open().file.value).toEqual(stored.file)
    expect(localStorage.getItem('keencrock-draft-x')).toBeNull()
  })
})
