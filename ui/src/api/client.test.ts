import { beforeEach, describe, expect, it, vi } from 'vitest'

// What was asked of the server, by its keys, and what it answers next.
const keys: (string | null)[] = []
const answers: (Response | Error)[] = []
const fake = vi.fn((request: Request) => {
  keys.push(request.headers.get('Idempotency-Key'))
  const next = answers.shift()
  return next instanceof Response ? Promise.resolve(next) : Promise.reject(next ?? new Error('nothing more'))
})

async function take(line: string) {
  vi.stubGlobal('fetch', fake)
  const { api, ask } = await import('./client')
  return ask(api.POST('/api/deliveries', { baseUrl: 'http://here.example', body: { line } })).catch(
    () => null,
  )
}
const done = () => new Response('{}', { status: 201, headers: { 'Content-Type': 'application/json' } })

describe('what makes something', () => {
  beforeEach(() => {
    keys.length = 0
  })

  it('keeps its key until the server has answered, and gets a new one then', async () => {
    answers.push(new TypeError('the line broke'), done(), done())
    await take('1 kg borax')
    await take('1 kg borax')
    await take('1 kg borax')
    expect(keys[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
    expect(keys[1]).toBe(keys[0])
    expect(keys[2]).not.toBe(keys[0])
  })

  it('has a key of its own for other words', async () => {
    answers.push(new TypeError('the line broke'), new TypeError('the line broke'))
    await take('1 kg borax')
    await take('2 kg borax')
    expect(keys[1]).not.toBe(keys[0])
  })
})
