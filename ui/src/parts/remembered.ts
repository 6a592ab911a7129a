import { ref, watch, type Ref } from 'vue'

/** A choice that this browser keeps from one visit to the next. */
export function remembered<T>(name: string, first: T): Ref<T> {
  const key = `keencrock.${name}`
  const value = ref(first) as Ref<T>
  try {
    const kept = localStorage.getItem(key)
    if (kept !== null) value.value = JSON.parse(kept) as T
  } catch {
    localStorage.removeItem(key)
  }
  watch(value, (v) => localStorage.setItem(key, JSON.stringify(v)), { deep: true })
  return value
}
