import { onScopeDispose, shallowRef, watch, type Ref } from 'vue'

/** The value once it has not changed for a while, so that each key does not ask the server. */
export function useSettled<T>(source: Ref<T>, ms: number): Readonly<Ref<T>> {
  const settled = shallowRef(source.value) as Ref<T> // the very value, to be compared with
  let timer = 0
  watch(
    source,
    (v) => {
      clearTimeout(timer)
      timer = window.setTimeout(() => (settled.value = v), ms)
    },
    { deep: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  return settled
}
