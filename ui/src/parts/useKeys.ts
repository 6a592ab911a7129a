import { onBeforeUnmount, onMounted, ref, shallowReactive, watch } from 'vue'

/** A key of a station: what it is, what it does. */
export interface KeyHint {
  keys: string
  does: string
}

/** The keys of whatever is on screen, for the page that `?` opens. */
export const keyHints = shallowReactive(new Set<KeyHint[]>())

const kept = 'keencrock.single-keys'

/** Whether single keys act at all; each browser keeps its own answer. */
export const singleKeysOn = ref(localStorage.getItem(kept) !== 'off')
watch(singleKeysOn, (on) => localStorage.setItem(kept, on ? 'on' : 'off'))

const controls = [
  'a[href]',
  'button',
  'input',
  'textarea',
  'select',
  'summary',
  '[contenteditable]:not([contenteditable=false])',
  ...[
    'button',
    'link',
    'tab',
    'slider',
    'option',
    'radio',
    'checkbox',
    'switch',
    'combobox',
    'spinbutton',
  ].map((role) => `[role=${role}]`),
].join(', ')

/** True where a key belongs to what has the focus: a field, a button, a slider. */
export function belongsToFocus(e: KeyboardEvent): boolean {
  return e.target instanceof Element && e.target.closest(controls) !== null
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

/**
 * Single keys, each with what it does. None acts while a control has the focus,
 * so that no key does something by surprise, nor where they are switched off.
 */
export function useSingleKeys(hints: KeyHint[], keys: Record<string, () => void>) {
  useKeys(hints, (e) => {
    if (!singleKeysOn.value || e.ctrlKey || e.metaKey || e.altKey || belongsToFocus(e)) return
    const act = keys[e.key]
    if (!act) return
    e.preventDefault() // or the key is typed into what it opens
    act()
  })
}
