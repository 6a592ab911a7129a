import { onScopeDispose, shallowRef, watch, type Ref } from 'vue'

/** The value once it has not changed for a while, so that each key does not ask the server. A
 * first change after a rest is passed on at once where that is asked for. */
export function useSettled<T>(source: Ref<T>, ms: number, firstAtOnce = false): Readonly<Ref<T>> {
  const settled = shallowRef(source.value) as Ref<T> // the very value, to be compared with
  let timer = 0
  let last = 0
  watch(
    source,
    (v) => {
      clearTimeout(timer)
      const rested = firstAtOnce && performance.now() - last >= ms
      last = performance.now()
      if (rested) settled.value = v
      else timer = window.setTimeout(() => (settled.value = v), ms)
    },
    { deep: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  return settled
}
