import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'

import { useSettled } from './useSettled'

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'], now: 1000 }))
afterEach(() => void vi.useRealTimers())

test('waits until nothing has changed for a while', async () => {
  const scope = effectScope()
  const typed = ref('a')
  const settled = scope.run(() => useSettled(typed, 40)) ?? ref('')
  typed.value = 'ab'
  await nextTick()
  vi.advanceTimersByTime(30)
  typed.value = 'abc'
  await nextTick()
  vi.advanceTimersByTime(30)
  expect(settled.value).toBe('a')
  vi.advanceTimersByTime(10)
  expect(settled.value).toBe('abc')
  scope.stop()
})

test('passes a first change after a rest on at once, and the next when they end', async () => {
  const scope = effectScope()
  const typed = ref('a')
  const settled = scope.run(() => useSettled(typed, 40, true)) ?? ref('')
  vi.advanceTimersByTime(100)
  typed.value = 'ab'
  await nextTick()
  expect(settled.value).toBe('ab')
  vi.advanceTimersByTime(10)
  typed.value = 'abc'
  await nextTick()
  expect(settled.value).toBe('ab')
  vi.advanceTimersByTime(40)
  expect(settled.value).toBe('abc')
  scope.stop()
})
