import { computed, reactive, watch } from 'vue'

import type { Schemas } from '../../api/client'
import { session } from '../../api/session'

type Starter = Schemas['Starter']
type StarterLine = Schemas['StarterLine']

/** What was chosen on the way to a batch, as the browser keeps it: one can leave and come back. */
interface Chosen {
  stage: number
  kind: string
  starter: string
  /** By material: that it is there, and how much of it where that was said. */
  there: Record<string, { has: boolean; amount: string }>
  times: number
  /** What has been done already of putting it on the bench. */
  formula: string
  /** The lines that were noted on the shelf already: tried again, none is noted twice. */
  noted: string[]
}

const nothing = (): Chosen => ({
  stage: 0,
  kind: '',
  starter: '',
  there: {},
  times: 1,
  formula: '',
  noted: [],
})

/** The stages of the way, in their order. */
export const stages = ['What', 'Way', 'Cupboard', 'Size'] as const

function read(key: string): Chosen {
  try {
    return { ...nothing(), ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Chosen>) }
  } catch {
    return nothing()
  }
}

/** Grams to the next ten above, or the next one below a hundred: what is noted as there. */
export const roundUp = (g: number) => (g >= 100 ? Math.ceil(g / 10) * 10 : Math.ceil(g))

/** The way from nothing to a batch on the bench. */
export function useStart(starters: () => Starter[] | undefined) {
  const key = `keencrock-start-${session.value?.person.id ?? ''}`
  const chosen = reactive(read(key))
  watch(chosen, (c) => localStorage.setItem(key, JSON.stringify(c)))

  const kinds = computed(() => {
    const found = new Map<string, { kind: string; name: string; ways: number }>()
    for (const s of starters() ?? []) {
      const before = found.get(s.kind)
      found.set(s.kind, { kind: s.kind, name: s.kind_name, ways: (before?.ways ?? 0) + 1 })
    }
    return [...found.values()]
  })
  const ways = computed(() => (starters() ?? []).filter((s) => s.kind === chosen.kind))
  const starter = computed(() => starters()?.find((s) => s.id === chosen.starter))

  /** Whether a line is there: from the tap, on the shelf, or ticked. */
  const isThere = (l: StarterLine) =>
    l.unstocked || onShelf(l, chosen.times) || (chosen.there[l.material]?.has ?? false)
  const onShelf = (l: StarterLine, times = 1) => (l.enough_for ?? 0) >= times
  const missing = computed(() => starter.value?.lines.filter((l) => !isThere(l)) ?? [])
  /** The other ways of the same good that need nothing that is not there. */
  const instead = computed(() =>
    ways.value.filter((s) => s.id !== chosen.starter && s.lines.every((l) => isThere(l))),
  )
  /** What is noted on the shelf before the batch begins: what was ticked and is not there. */
  const toNote = computed(() =>
    (starter.value?.lines ?? []).filter(
      (l) => !l.unstocked && !onShelf(l, chosen.times) && chosen.there[l.material]?.has,
    ),
  )
  const noteOf = (l: StarterLine) =>
    `${chosen.there[l.material]?.amount.trim() || `${roundUp(l.mass_g * chosen.times)} g`} ${l.name}, no price yet`
  const note = computed(() => toNote.value.map(noteOf).join('; '))
  const unnoted = computed(() => toNote.value.map(noteOf).filter((line) => !chosen.noted.includes(line)))

  function choose(s: Starter) {
    if (chosen.starter !== s.id) chosen.formula = ''
    chosen.starter = s.id
    chosen.kind = s.kind
    chosen.stage = 2
  }

  /** Begins anew: the batch is on the bench, or the way is left. */
  function forget() {
    Object.assign(chosen, nothing())
    localStorage.removeItem(key)
  }

  return {
    chosen,
    kinds,
    ways,
    starter,
    isThere,
    onShelf,
    missing,
    instead,
    toNote,
    note,
    unnoted,
    choose,
    forget,
  }
}
