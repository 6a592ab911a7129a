import { shallowRef, watch, type Ref } from 'vue'

/** The last value there was, while there is none: an answer stays until the next good one. */
export function useLast<T>(source: Ref<T | undefined>) {
  const last = shallowRef(source.value)
  watch(
    source,
    (v) => {
      if (v !== undefined) last.value = v
    },
    { flush: 'sync' },
  )
  return last
}
