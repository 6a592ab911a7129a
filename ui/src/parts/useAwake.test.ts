import { afterEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'

import { useAwake } from './useAwake'

describe('useAwake', () => {
  afterEach(() => vi.unstubAllGlobals())

  it('holds the screen while something holds, and lets go of it after', async () => {
    const release = vi.fn(() => Promise.resolve())
    const request = vi.fn(() => Promise.resolve({ released: false, release }))
    vi.stubGlobal('navigator', { wakeLock: { request } })
    const open = ref(false)
    const scope = effectScope()
    scope.run(() => useAwake(() => open.value))
    expect(request).not.toHaveBeenCalled()
    open.value = true
    await nextTick()
    expect(request).toHaveBeenCalledTimes(1)
    await nextTick()
    scope.stop()
    expect(release).toHaveBeenCalledTimes(1)
  })

  it('does nothing where the browser cannot', () => {
    vi.stubGlobal('navigator', {})
    const scope = effectScope()
    expect(() => scope.run(() => useAwake(() => true))).not.toThrow()
    scope.stop()
  })
})
