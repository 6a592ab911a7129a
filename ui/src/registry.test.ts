import { QueryClient, QueryObserver } from '@tanstack/vue-query'
import { describe, expect, it } from 'vitest'

import { makeOld } from './registry'

describe('a change', () => {
  it('makes old what was asked for before it and has not come yet', async () => {
    const client = new QueryClient()
    let asked = 0
    const answers: ((v: string) => void)[] = []
    const observer = new QueryObserver(client, {
      queryKey: ['waiting'],
      queryFn: () => new Promise<string>((on) => answers.push(on) && asked++),
    })
    const stop = observer.subscribe(() => undefined)
    expect(asked).toBe(1)
    makeOld(client, 'anything')
    await new Promise((on) => setTimeout(on))
    expect(asked).toBe(2)
    answers[0]?.('of before')
    answers[1]?.('of after')
    await new Promise((on) => setTimeout(on))
    expect(observer.getCurrentResult().data).toBe('of after')
    stop()
  })
})
