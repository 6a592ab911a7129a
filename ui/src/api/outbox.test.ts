import { afterEach, beforeEach, expect, test, vi } from 'vitest'

import type { Schemas } from './client'
import { foresee } from './foresee'

const weighings = '/api/batches/{id}/weighings'

function line(n: number, target_g: number, more: Partial<Schemas['BatchLine']> = {}): Schemas['BatchLine'] {
  return {
    line: n,
    material: 'borax',
    name: `Line ${n}`,
    target_g,
    weighed_g: 0,
    left_g: target_g,
    tolerance_g: 1,
    status: 'waiting',
    lots: [{ lot: 'l', code: 'B-1', available_g: 1000, weighed_g: 0, suggested_g: target_g }],
    ...more,
  }
}

const batch = (lines: Schemas['BatchLine'][]) =>
  ({
    id: 'b',
    lines,
    next_line: 0,
    step: 0,
    steps: [
      { step: 0, kind: 'weigh', name: 'weigh out', stage: 'scale', status: 'here', lines: [0, 1] },
      { step: 1, kind: 'mix', name: 'mix', stage: 'bench', status: 'waiting', lines: [] },
      { step: 2, kind: 'fill', name: 'fill', stage: 'filling', status: 'waiting', lines: [] },
    ],
  }) as unknown as Schemas['Batch']

test('a weighing leads on to the rest of its line, the next line, the next step', () => {
  let b = { ...batch([line(0, 100, { advice: '100 g more.' }), line(1, 50)]), weighed_g: 10 }
  b = foresee(b, weighings, { line: 0, lot: 'B-1', grams: 60 })
  expect(b.weighed_g).toBe(70)
  expect(b.lines[0]?.advice).toBeUndefined() // it was of before
  expect(b.lines[0]).toMatchObject({ weighed_g: 60, left_g: 40, status: 'started' })
  expect(b.lines[0]?.lots[0]).toMatchObject({ available_g: 940, weighed_g: 60, suggested_g: 40 })
  expect(b.next_line).toBe(0)
  b = foresee(b, weighings, { line: 0, lot: 'B-1', grams: 40.5 })
  expect(b.lines[0]?.status).toBe('done')
  expect(b.next_line).toBe(1)
  b = foresee(b, weighings, { line: 1, lot: 'B-1', grams: 70 })
  expect(b.lines[1]?.status).toBe('over')
  b = foresee(b, weighings, { line: 1, lot: 'B-1', grams: -20 })
  expect(b.next_line).toBeUndefined()
  expect(b.step).toBe(1)
  b = foresee(b, '/api/batches/{id}/acts', { kind: 'step-done', step: 1 })
  expect(b.steps?.[1]?.status).toBe('done')
  expect(b.step).toBe(2)
})

test('a line that is left out is passed, and taken in again', () => {
  let b = batch([line(0, 100), line(1, 50)])
  b = foresee(b, '/api/batches/{id}/left-out', { line: 0, out: true })
  expect(b.next_line).toBe(1)
  b = foresee(b, '/api/batches/{id}/left-out', { line: 0, out: false })
  expect(b.next_line).toBe(0)
})

// what a server is sent, and how it answers
let sent: { path: string; key: string; body: { text: string; at?: string } }[] = []
let answers: (() => Response | Promise<Response>)[] = []
const problem = (status: number, code: string, field?: string) =>
  new Response(JSON.stringify({ status, code, field, detail: `refused: ${code}` }), {
    status,
    headers: { 'Content-Type': 'application/problem+json' },
  })
const done = () =>
  new Response('{"id":"b"}', { status: 201, headers: { 'Content-Type': 'application/json' } })
const down = () => Promise.reject(new TypeError('the line is down'))

async function outbox() {
  vi.resetModules()
  const box = await import('./outbox')
  const { session } = await import('./session')
  session.value = { person: { id: 'me' } } as unknown as Schemas['Session']
  return { ...box, note: (text: string) => box.sendOrKeep('b', '/api/batches/{id}/notes', { text }, text) }
}

beforeEach(() => {
  localStorage.clear()
  sent = []
  answers = []
  vi.stubGlobal('fetch', async (r: Request) => {
    sent.push({
      path: new URL(r.url).pathname,
      key: r.headers.get('Idempotency-Key') ?? '',
      body: (await r.clone().json()) as { text: string },
    })
    return (answers.shift() ?? done)()
  })
})
afterEach(() => vi.unstubAllGlobals())

test('what cannot be sent waits, outlives the page, and goes in order with its keys', async () => {
  let box = await outbox()
  answers = [down]
  expect(await box.note('first')).toBeNull()
  expect(await box.note('second')).toBeNull() // behind it, without a try
  expect(sent.map((s) => s.body.text)).toEqual(['first'])
  const key = sent[0]?.key
  box = await outbox() // the page is loaded again
  expect(box.waiting.value.map((k) => k.said)).toEqual(['first', 'second'])
  answers = [() => problem(503, 'database-away')]
  await box.flush()
  expect(box.waiting.value).toHaveLength(2)
  await box.flush()
  expect(box.waiting.value).toHaveLength(0)
  expect(sent.map((s) => s.body.text)).toEqual(['first', 'first', 'first', 'second'])
  expect(sent[2]?.key).toBe(key)
  expect(sent[2]?.body.at).toBeTruthy()
  expect(await box.note('third')).toEqual({ id: 'b' })
})

test('what is refused in the end is told, what was done before is not', async () => {
  const box = await outbox()
  answers = [down, () => problem(409, 'done-already'), () => problem(422, 'closed'), done]
  await box.note('done')
  await box.note('refused')
  await box.note('after')
  await box.flush()
  expect(box.waiting.value).toHaveLength(0)
  expect(box.refused.value.map((r) => [r.said, r.why])).toEqual([['refused', 'refused: closed']])
  box.refused.value.forEach(box.dismiss)
  expect(box.refused.value).toHaveLength(0)
})

test('a clock that goes wrong here keeps nothing from being recorded', async () => {
  const box = await outbox()
  answers = [down, () => problem(422, 'bad-value', 'at'), done]
  await box.note('early')
  await box.flush()
  expect(sent.at(-1)?.body.at).toBeUndefined()
  expect(box.refused.value).toHaveLength(0)
})

test('what the server refuses at once does not wait; nobody else sends what waits', async () => {
  const box = await outbox()
  answers = [() => problem(422, 'bad-value')]
  await expect(box.note('wrong')).rejects.toThrow()
  answers = [down]
  await box.note('mine')
  const { session } = await import('./session')
  session.value = { person: { id: 'other' } } as unknown as Schemas['Session']
  await box.flush()
  expect(sent).toHaveLength(2)
  expect(box.waiting.value).toHaveLength(0)
})

test('what this browser has no room for is not said to wait', async () => {
  const box = await outbox()
  answers = [down]
  const roomy = localStorage
  vi.stubGlobal('localStorage', {
    setItem: () => {
      throw new DOMException('no room', 'QuotaExceededError')
    },
  })
  await expect(box.note('a long photo')).rejects.toThrow('no room to keep that')
  vi.stubGlobal('localStorage', roomy)
  expect(box.waiting.value).toHaveLength(0)
  answers = [down]
  expect(await box.note('short')).toBeNull()
  expect(box.waiting.value.map((k) => k.said)).toEqual(['short'])
})
