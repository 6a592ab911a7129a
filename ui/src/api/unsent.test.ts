import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import { forgetOld, unsentForm, unsentText } from './unsent'

beforeEach(() => {
  localStorage.clear()
  vi.useRealTimers()
})

describe('what is typed and not sent', () => {
  it('is found again until it is sent', async () => {
    const text = unsentText('note')
    text.value = 'half a sentence'
    await nextTick()
    expect(unsentText('note').value).toBe('half a sentence')
    expect(unsentText('other').value).toBe('')
    text.value = ''
    await nextTick()
    expect(unsentText('note').value).toBe('')
    expect(localStorage.length).toBe(0)
  })

  it('of a form comes back whole, and says so', async () => {
    const one = unsentForm('vat', { name: '', litres: 10 })
    expect(one.back.value).toBe(false)
    one.form.name = 'Peel bin'
    await nextTick()
    const again = unsentForm('vat', { name: '', litres: 10 })
    expect(again.form).toEqual({ name: 'Peel bin', litres: 10 })
    expect(again.back.value).toBe(true)
    again.empty()
    expect(again.form.name).toBe('')
    await nextTick()
    again.form.name = 'Other'
    again.sent()
    await nextTick()
    expect(unsentForm('vat', { name: '', litres: 10 }).form.name).toBe('')
  })

  it('is forgotten after three days, and where it cannot be read', async () => {
    vi.useFakeTimers({ toFake: ['Date'] })
    vi.setSystemTime(new Date(2026, 5, 1))
    unsentText('note').value = 'old'
    await nextTick()
    vi.setSystemTime(new Date(2026, 5, 5))
    forgetOld()
    expect(localStorage.length).toBe(0)
    localStorage.setItem('keencrock.unsent..note', '{')
    expect(unsentForm('note', { a: 1 }).form.a).toBe(1)
  })
})
