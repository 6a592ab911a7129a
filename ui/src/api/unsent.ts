import { reactive, ref, toRaw, watch, type Ref } from 'vue'

import { session } from './session'

// What is typed and not sent yet stays in this browser: a flat battery, a reload or a look
// at another station takes nothing. It is kept for who typed it, where it was typed, for a
// few days, and gone once it is sent. Passwords and weights off a scale are not kept.

const PREFIX = 'keencrock.unsent.'
const DAYS = 3
const MOST = 40_000 // letters

interface Kept {
  at: number
  typed: unknown
}

const placeOf = (name: string) => `${PREFIX}${session.value?.person.id ?? ''}.${location.pathname}.${name}`

function read(place: string): unknown {
  try {
    const kept = JSON.parse(localStorage.getItem(place) ?? 'null') as Kept | null
    if (kept && Date.now() - kept.at < DAYS * 86_400_000) return kept.typed
  } catch {
    // what cannot be read is as good as gone
  }
  localStorage.removeItem(place)
  return undefined
}

function keep(place: string, typed: unknown) {
  const text = JSON.stringify({ at: Date.now(), typed } satisfies Kept)
  if (text.length > MOST) return
  try {
    localStorage.setItem(place, text)
  } catch {
    // the browser has no room: then it is as it was without
  }
}

/** A text that is found again until it is empty: what is sent empties its field. */
export function unsentText(name: string): Ref<string> {
  const place = placeOf(name)
  const before = read(place)
  const text = ref(typeof before === 'string' ? before : '')
  watch(text, (t) => (t ? keep(place, t) : localStorage.removeItem(place)), { flush: 'sync' })
  return text
}

/** A form that is found again as it was left, until `sent` or `empty` is called. */
export function unsentForm<T extends object>(name: string, first: T) {
  const place = placeOf(name)
  const before = read(place)
  /** Whether something is back that was typed before. */
  const back = ref(before !== undefined)
  const form = reactive({ ...first, ...(before as Partial<T> | undefined) }) as T
  const asAtFirst = () => JSON.stringify(form) === JSON.stringify(first)
  watch(form, (f) => (asAtFirst() ? localStorage.removeItem(place) : keep(place, toRaw(f))), {
    deep: true,
    flush: 'sync',
  })
  const sent = () => localStorage.removeItem(place)
  /** What stands in fields that nobody has filled: it comes later than the form, and is nothing that was typed. */
  function usually(usual: Partial<T>) {
    for (const key of Object.keys(usual) as (keyof T)[]) {
      first[key] ??= usual[key] as T[keyof T]
      form[key] ??= usual[key] as T[keyof T]
    }
  }
  /** The form as it was before anything was typed. */
  function empty() {
    localStorage.removeItem(place)
    for (const key of Object.keys(form)) if (!(key in first)) Reflect.deleteProperty(form, key)
    Object.assign(form, first)
    back.value = false
  }
  return { form, back, sent, empty, usually }
}

/** Forgets what is too old, of everyone: once, when the page opens. */
export function forgetOld() {
  for (const place of Object.keys(localStorage)) if (place.startsWith(PREFIX)) read(place)
}
