import type { Schemas } from '../../api/client'

/** A field that a column of somebody's sheet may be. */
export interface Field {
  id: string
  label: string
  needed?: boolean
  /** Words that heads of such columns are written with. */
  words: string[]
}

export const fields = {
  sales: [
    { id: 'day', label: 'day', words: ['day', 'date', 'when', 'on', 'sold on'] },
    {
      id: 'good',
      label: 'good, or code of a batch',
      needed: true,
      words: ['good', 'product', 'item', 'what', 'name', 'batch', 'article'],
    },
    {
      id: 'jars',
      label: 'jars',
      words: ['jars', 'number', 'count', 'quantity', 'qty', 'pieces', 'amount', 'how many'],
    },
    {
      id: 'to',
      label: 'to whom',
      words: ['to', 'customer', 'outlet', 'who', 'buyer', 'client', 'shop', 'sold to'],
    },
    { id: 'price', label: 'price of each', words: ['price', 'price each', 'unit price', 'each'] },
    { id: 'kind', label: 'sold, given, out or back', words: ['kind', 'how', 'type'] },
  ],
  outlets: [
    {
      id: 'name',
      label: 'name',
      needed: true,
      words: ['name', 'customer', 'outlet', 'who', 'client', 'shop'],
    },
    { id: 'kind', label: 'outlet, stall or customer', words: ['kind', 'type', 'what'] },
    {
      id: 'reach',
      label: 'how to reach them',
      words: ['reach', 'phone', 'contact', 'address', 'mail', 'email', 'telephone'],
    },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks'] },
    { id: 'keep_from', label: 'keep from', words: ['keep from', 'allergens', 'allergies', 'mind'] },
  ],
} satisfies Record<string, Field[]>

export type What = keyof typeof fields

/** Which column each field is, by its number; none where no head says so. What somebody
 * matched before stands before what the words say. */
export function matched(
  what: What,
  head: string[],
  before: Record<string, string> = {},
): Record<string, number> {
  const low = head.map((h) => h.toLowerCase().trim())
  const out: Record<string, number> = {}
  const free = (i: number) => i >= 0 && !Object.values(out).includes(i)
  for (const f of fields[what]) {
    const chosen = low.indexOf((before[f.id] ?? '').toLowerCase())
    if (before[f.id] && free(chosen)) out[f.id] = chosen
  }
  for (const f of fields[what]) {
    if (f.id in out) continue
    const at = f.words.map((w) => low.indexOf(w)).find(free)
    if (at !== undefined) out[f.id] = at
  }
  return out
}

/** The rows of a sheet as they are brought in. */
export function rowsOf(read: Schemas['SheetRead'], columns: Record<string, number>) {
  return read.rows.map((cells, i) => ({
    row: read.first + i,
    ...Object.fromEntries(
      Object.entries(columns).flatMap(([id, at]) => (cells[at] ? [[id, cells[at].slice(0, 400)]] : [])),
    ),
  }))
}

/** How a column is called in a spreadsheet: A, B, … AA. */
export function letters(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : letters(Math.floor(at / 26) - 1) + letters(at % 26)
}
