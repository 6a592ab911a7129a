import { computed, reactive } from 'vue'

/**
 * The water a formula is asked about: empty fields are the formula's own
 * strength and the workshop's hardness.
 */
export function useWater() {
  const asked = reactive({ strength: '', hardness: '', celsius: 25 })
  const query = computed(() => ({
    ...(asked.strength.trim() ? { use: asked.strength.trim() } : {}),
    ...(asked.hardness.trim() ? { hardness: asked.hardness.trim() } : {}),
    ...(asked.celsius !== 25 ? { celsius: asked.celsius } : {}),
  }))
  const ask = (part: Partial<typeof asked>) => Object.assign(asked, part)
  return { asked, query, ask }
}

export type Water = ReturnType<typeof useWater>
