import { computed, ref, watch, type Ref } from 'vue'

import type { Schemas } from '../../api/client'
import { session } from '../../api/session'

export type FormulaFile = Schemas['FormulaFile']

export const emptyFormula = (): FormulaFile => ({
  format: 'keencrock/formula',
  version: 3,
  name: '',
  kind: 'laundry-powder',
  lines: [],
})

/** What stands in the browser's keeping, so that nothing is lost by leaving a page. */
interface Kept {
  file: FormulaFile
  base: number
  /** Nothing was changed since the version it is based on: only what can be undone is of use. */
  clean?: boolean
  past?: FormulaFile[]
  future?: FormulaFile[]
}

/** How many steps back and forth outlive the page. */
const mostKept = 60

const same = (a: FormulaFile, b: FormulaFile) => JSON.stringify(a) === JSON.stringify(b)
const copy = (f: FormulaFile): FormulaFile => JSON.parse(JSON.stringify(f)) as FormulaFile

/** Takes over a draft of before they were kept by person. */
function takeOver(before: string, now: string) {
  const text = localStorage.getItem(before)
  if (text === null) return
  localStorage.removeItem(before)
  if (localStorage.getItem(now) === null) localStorage.setItem(now, text)
}

/** Edits of one field follow each other within this time to be undone as one. */
const oneEditMs = 1200

/**
 * A formula being written: every change can be undone without end, and the
 * draft outlives the page until it is kept on the server or thrown away.
 */
export function useDraft(id: string) {
  const keyOf = (formula: string) => `keencrock-draft-${session.value?.person.id ?? ''}-${formula}`
  const key = keyOf(id)
  const full = ref(false) // the browser keeps no more
  takeOver(`keencrock-draft-${id}`, key)
  const file = ref(emptyFormula()) as Ref<FormulaFile>
  const saved = ref(emptyFormula()) as Ref<FormulaFile>
  const base = ref(0)
  const past = ref([]) as Ref<FormulaFile[]>
  const future = ref([]) as Ref<FormulaFile[]>
  let lastEdit = { field: '', at: 0 }

  const dirty = computed(() => !same(file.value, saved.value))

  /** Takes over what the server has, unless a draft of it is kept here. */
  function load(stored: { file: FormulaFile; version: number } | null) {
    saved.value = stored ? copy(stored.file) : emptyFormula()
    base.value = stored?.version ?? 0
    file.value = copy(saved.value)
    past.value = []
    future.value = []
    const text = localStorage.getItem(key)
    if (!text) return
    try {
      const kept = JSON.parse(text) as Kept
      if (kept.clean && (kept.base !== base.value || !same(kept.file, file.value))) {
        localStorage.removeItem(key) // somebody has kept another version since
        return
      }
      file.value = kept.file
      base.value = kept.base
      past.value = kept.past ?? []
      future.value = kept.future ?? []
    } catch {
      localStorage.removeItem(key)
    }
  }

  /** Changes the draft; edits of the same field in a row are one step to undo. */
  function change(field: string, f: (draft: FormulaFile) => void) {
    const now = Date.now()
    const before = copy(file.value)
    const next = copy(file.value)
    f(next)
    if (same(before, next)) return
    if (field === '' || field !== lastEdit.field || now - lastEdit.at > oneEditMs) past.value.push(before)
    lastEdit = { field, at: now }
    future.value = []
    file.value = next
  }

  function step(from: Ref<FormulaFile[]>, to: Ref<FormulaFile[]>) {
    const f = from.value.pop()
    if (!f) return
    to.value.push(copy(file.value))
    file.value = f
    lastEdit = { field: '', at: 0 }
  }

  const undo = () => step(past, future)
  const redo = () => step(future, past)

  /**
   * Says that the server has kept this version. What was written since it was
   * sent stays a change to it, under the id that it is kept by.
   */
  function kept(stored: { id: string; file: FormulaFile; version: number }, sent = file.value) {
    const since = file.value !== sent
    saved.value = copy(stored.file)
    base.value = stored.version
    localStorage.removeItem(key)
    if (!since) file.value = copy(stored.file)
    keepHere(keyOf(stored.id))
  }

  /** Keeps the draft in the browser, and the steps back and forth where there is room for them. */
  function keepHere(at: string) {
    if (!dirty.value && !past.value.length && !future.value.length) {
      localStorage.removeItem(at)
      return
    }
    const now: Kept = { file: file.value, base: base.value, clean: !dirty.value || undefined }
    const steps = { past: past.value.slice(-mostKept), future: future.value.slice(-mostKept) }
    for (const kept of [{ ...now, ...steps }, now])
      try {
        localStorage.setItem(at, JSON.stringify(kept))
        full.value = false
        return
      } catch {
        full.value = dirty.value
      }
  }

  watch(file, () => keepHere(key))

  return {
    file,
    base,
    dirty,
    full,
    load,
    change,
    kept,
    undo,
    redo,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
  }
}
