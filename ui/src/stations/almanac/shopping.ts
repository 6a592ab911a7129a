import type { Schemas } from '../../api/types'

/** A line of the shopping list as one says a delivery: what the shelf reads. */
export function lineOf(b: Schemas['ToBuy']): string {
  const name = b.name.toLowerCase()
  if (!b.packs) return `${Math.ceil(b.grams)} g ${name}`
  return `${b.packs} x ${Math.round(b.pack_g ?? 0)} g ${name}${b.supplier ? ` from ${b.supplier}` : ''}`
}
