import { onBeforeUnmount, onMounted, shallowReactive } from 'vue'

/** A key of a station: what it is, what it does. */
export interface KeyHint {
  keys: string
  does: string
}

/** The keys of whatever is on screen, for the page that `?` opens. */
export const keyHints = shallowReactive(new Set<KeyHint[]>())

/** True while someone types, so that a letter is a letter. */
export function typing(e: KeyboardEvent): boolean {
  const t = e.target as HTMLElement | null
  return !!t && (t.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(t.tagName))
}

/** Listens for keys while a part is on screen and lists them under `?`. */
export function useKeys(hints: KeyHint[], handle: (e: KeyboardEvent) => void) {
  onMounted(() => {
    if (hints.length > 0) keyHints.add(hints)
    window.addEventListener('keydown', handle)
  })
  onBeforeUnmount(() => {
    keyHints.delete(hints)
    window.removeEventListener('keydown', handle)
  })
}
