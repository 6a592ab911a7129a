import createClient from 'openapi-fetch'
import { ref } from 'vue'

import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']

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

const client = createClient<paths>({ baseUrl: '/' })

client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', csrfToken)
    return request
  },
})

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
    away.value = ''
    return answer.data as T
  }
  const problem = (answer.error ?? { ...unreachable, status: answer.response.status }) as Problem
  if (problem.code === 'not-signed-in') signedOut()
  if (problem.code === 'database-away')
    away.value = 'The database does not answer and is being started again. What you typed is kept here.'
  throw new ProblemError(problem)
}

/** A sentence for any error. */
export function sentence(e: unknown): string {
  return e instanceof Error ? e.message : String(e)
}
