import { computed, ref } from 'vue'

import { api, ask, newKey, ProblemError, type Schemas } from './client'
import { sentence } from '../words'
import { session } from './session'

// What is done at the bench while the line is down: it is kept in this browser with its
// key and the time it was done, shown as waiting, and sent in order when the line is back.
// With its key each is recorded once, however often it is sent.

type Batch = Schemas['Batch']

/** The calls that may wait and add one thing to the log of a batch. */
export interface BatchCalls {
  '/api/batches/{id}/weighings': Schemas['Weighing']
  '/api/batches/{id}/acts': Schemas['BatchAct']
  '/api/batches/{id}/notes': Schemas['BatchNote']
  '/api/batches/{id}/left-out': Schemas['LeaveOut']
  '/api/batches/{id}/pictures': Schemas['BatchPicture']
}
/** All calls that may wait: at a stall a jar is sold while the line is down too. */
export interface Calls extends BatchCalls {
  '/api/stall-days/{id}/sales': Schemas['StallSale']
}
type Answer<P extends keyof Calls> = P extends keyof BatchCalls ? Batch : Schemas['StallDay']

/** One thing that waits to be sent. */
export interface Kept<P extends keyof Calls = keyof Calls> {
  person: string
  batch: string
  path: P
  body: Calls[P]
  key: string
  said: string // in words, for who did it
}

/** One that was refused when it was sent at last. */
export interface Refused extends Kept {
  why: string
}

const place = 'keencrock-outbox'

function read(): { kept: Kept[]; refused: Refused[] } {
  try {
    const found = JSON.parse(localStorage.getItem(place) ?? '') as { kept: Kept[]; refused: Refused[] }
    return { kept: found.kept ?? [], refused: found.refused ?? [] }
  } catch {
    return { kept: [], refused: [] }
  }
}

const held = ref(read())

function keep() {
  localStorage.setItem(place, JSON.stringify(held.value))
}

const mine = (k: Kept) => k.person === session.value?.person.id

/** What waits of who is signed in, in the order it was done. */
export const waiting = computed(() => held.value.kept.filter(mine))
/** What was refused of who is signed in. */
export const refused = computed(() => held.value.refused.filter(mine))

export function dismiss(r: Refused) {
  held.value.refused = held.value.refused.filter((other) => other.key !== r.key)
  keep()
}

/** Whether an answer says that the line, or what is behind it, is down. */
function isAway(e: unknown): boolean {
  return e instanceof ProblemError && [0, 502, 503, 504].includes(e.problem.status)
}

function send(k: Kept): Promise<unknown> {
  const call = api.POST as unknown as (
    path: string,
    init: object,
  ) => Promise<{ data?: unknown; error?: unknown; response: Response }>
  return ask(
    call(k.path, { params: { path: { id: k.batch } }, body: k.body, headers: { 'Idempotency-Key': k.key } }),
  )
}

/**
 * Does one thing to a batch, or at a stall: it as the server has it then, or null when it waits to
 * be sent, behind whatever waits already. What the server refuses is a ProblemError.
 */
export async function sendOrKeep<P extends keyof Calls>(
  batch: string,
  path: P,
  body: Calls[P],
  said: string,
): Promise<Answer<P> | null> {
  const k: Kept = { person: session.value?.person.id ?? '', batch, path, body, key: newKey(), said }
  if (!waiting.value.length) {
    try {
      return (await send(k)) as Answer<P>
    } catch (e) {
      if (!isAway(e)) throw e
    }
  }
  // done now, whenever it is sent
  if (path !== '/api/batches/{id}/left-out') k.body = { at: new Date().toISOString(), ...body }
  held.value.kept.push(k)
  try {
    keep()
  } catch {
    held.value.kept.pop()
    throw new Error('This browser has no room to keep that until the line is back: do it again then.')
  }
  return null
}

let sending: Promise<void> | undefined

/** Sends what waits, in order, until it is all gone or the line is down again. */
export function flush(): Promise<void> {
  sending ??= sendAll().finally(() => (sending = undefined))
  return sending
}

async function sendAll() {
  for (let k = waiting.value[0]; k; k = waiting.value[0]) {
    const { key } = k
    try {
      await send(k)
    } catch (e) {
      if (isAway(e) || !session.value) return
      if (e instanceof ProblemError && e.problem.field === 'at' && 'at' in k.body) {
        delete k.body.at // the clock here goes wrong: when it is sent will have to do
        continue
      }
      if (!(e instanceof ProblemError && e.problem.code === 'done-already'))
        held.value.refused.push({ ...k, why: sentence(e) })
    }
    held.value.kept = held.value.kept.filter((other) => other.key !== key)
    keep()
  }
}
