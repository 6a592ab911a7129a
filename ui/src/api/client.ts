import createClient from 'openapi-fetch'
import { ref } from 'vue'

import { moment } from '../words'
import { readHeader } from '../workerNames'

import type { paths } from './schema'
import type { Problem } from './types'

export type { Problem, Schemas } from './types'

/** What every failed call throws: the server's problem document. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title)
  }
}

let csrfToken = ''
let signedOut: () => void = () => undefined

/** Keeps the token that changes are sent with. */
export function useToken(token: string) {
  csrfToken = token
}

/** Says what to do when the session has ended. */
export function onSignedOut(f: () => void) {
  signedOut = f
}

/** A call that needs a key, without it: the client itself sends one. */
type WithoutKey<Call> = Call extends { parameters: { header: { 'Idempotency-Key': string } } }
  ? Omit<Call, 'parameters'> & { parameters: Omit<Call['parameters'], 'header'> & { header?: never } }
  : Call
type Contract = {
  [Path in keyof paths]: { [Method in keyof paths[Path]]: WithoutKey<paths[Path][Method]> }
}

const client = createClient<Contract>({ baseUrl: '/' })

/**
 * The keys of what was asked and has not been done yet: asked again, in the same
 * words, it keeps its key, so that the server does it once.
 */
const keys = new Map<string, string>()
const wordsOf = async (r: Request) => `${r.method} ${r.url} ${await r.clone().text()}`
const asked = new WeakMap<Request, string>()

client.use({
  async onRequest({ request }) {
    if (request.method === 'GET') return request
    request.headers.set('X-CSRF-Token', csrfToken)
    if (request.method !== 'POST' || request.headers.has('Idempotency-Key')) return request
    const words = await wordsOf(request)
    const key = keys.get(words) ?? newKey()
    keys.set(words, key)
    asked.set(request, words)
    request.headers.set('Idempotency-Key', key)
    return request
  },
  onResponse({ request, response }) {
    const words = asked.get(request)
    if (words && (response.ok || response.status < 500)) keys.delete(words)
    return response
  },
})

/** A random UUID; crypto.randomUUID is not there on a workshop's own network. */
export function newKey(): string {
  const b = crypto.getRandomValues(new Uint8Array(16))
  b[6] = ((b[6] ?? 0) & 0x0f) | 0x40
  b[8] = ((b[8] ?? 0) & 0x3f) | 0x80
  const hex = [...b].map((n) => n.toString(16).padStart(2, '0')).join('')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}

export const api = client

const unreachable: Problem = {
  type: 'about:blank',
  title: 'Unreachable',
  status: 0,
  code: 'unreachable',
  detail: 'The server does not answer. What you typed is kept here; try again in a moment.',
}

/** What stands between the page and the workshop's data; empty while all is well. */
export const away = ref('')

/** The body of an answer, or a ProblemError. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response }
  try {
    answer = await call
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e
    away.value = 'The server does not answer. What you typed is kept here; it is tried again and again.'
    throw new ProblemError(unreachable)
  }
  if (answer.response.ok) {
    const read = answer.response.headers.get(readHeader)
    away.value =
      read === null ? '' : `The server does not answer. What you see was read ${moment(read || undefined)}.`
    return answer.data as T
  }
  const problem = (answer.error ?? { ...unreachable, status: answer.response.status }) as Problem
  if (problem.code === 'not-signed-in') signedOut()
  if (problem.code === 'database-away')
    away.value = 'The database does not answer and is being started again. What you typed is kept here.'
  throw new ProblemError(problem)
}
