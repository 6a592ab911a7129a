import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { followStream } from './stream'

class Source extends EventTarget {
  static made: Source[] = []
  closed = false
  constructor(readonly url: string) {
    super()
    Source.made.push(this)
  }
  close() {
    this.closed = true
  }
  say(name: string, data: unknown) {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }))
  }
}

describe('followStream', () => {
  beforeEach(() => {
    Source.made = []
    vi.stubGlobal('EventSource', Source)
  })
  afterEach(() => vi.unstubAllGlobals())

  it('hands events on by name, read', () => {
    const heard: unknown[] = []
    const stop = followStream('/api/events', { change: (c) => heard.push(c) })
    Source.made[0]?.say('change', { topic: 'shelf' })
    Source.made[0]?.say('other', { topic: 'pantry' })
    expect(heard).toEqual([{ topic: 'shelf' }])
    stop()
    expect(Source.made[0]?.closed).toBe(true)
  })

  it('lets its connection go while the page is set aside, and takes it up again', () => {
    const heard: unknown[] = []
    const stop = followStream('/api/events', { change: (c) => heard.push(c) })
    window.dispatchEvent(new Event('pagehide'))
    expect(Source.made[0]?.closed).toBe(true)
    window.dispatchEvent(new Event('pageshow'))
    window.dispatchEvent(new Event('pageshow'))
    expect(Source.made).toHaveLength(2)
    Source.made[1]?.say('change', 1)
    expect(heard).toEqual([1])
    stop()
    window.dispatchEvent(new Event('pageshow'))
    expect(Source.made).toHaveLength(2)
  })

  it('says when it is broken', () => {
    const broken = vi.fn()
    const stop = followStream('/api/scale/stream', {}, broken)
    Source.made[0]?.dispatchEvent(new Event('error'))
    expect(broken).toHaveBeenCalledOnce()
    stop()
  })
})
