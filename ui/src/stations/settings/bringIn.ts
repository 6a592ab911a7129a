import type { Schemas } from '../../api/client'

/** A field that a column of somebody's sheet may be. */
export interface Field {
  id: string
  label: string
  needed?: boolean
  /** Words that heads of such columns are written with. */
  words: string[]
}

/** Units that a column of mere numbers may be headed with: “grams”, “weight (g)”. */
const units: Record<string, string> = {
  g: 'g',
  gram: 'g',
  grams: 'g',
  kg: 'kg',
  kilos: 'kg',
  ml: 'ml',
  l: 'l',
  litres: 'l',
  liters: 'l',
  oz: 'oz',
  lb: 'lb',
  cups: 'cups',
  drops: 'drops',
  parts: 'parts',
  '%': '%',
}
const inHeads = Object.keys(units)

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
  lots: [
    {
      id: 'material',
      label: 'material',
      needed: true,
      words: ['material', 'ingredient', 'item', 'name', 'what', 'product', 'article'],
    },
    {
      id: 'amount',
      label: 'amount, with its unit',
      needed: true,
      words: ['amount', 'quantity', 'weight', 'mass', 'size', 'pack size', 'how much', ...inHeads],
    },
    { id: 'unit', label: 'its unit, where it stands apart', words: ['unit', 'units', 'measure'] },
    { id: 'packs', label: 'packs of it', words: ['packs', 'number', 'count', 'qty', 'bags', 'pieces'] },
    { id: 'price', label: 'price of all', words: ['price', 'cost', 'total', 'paid', 'amount paid'] },
    { id: 'currency', label: 'currency', words: ['currency'] },
    { id: 'supplier', label: 'supplier', words: ['supplier', 'from', 'vendor', 'bought at', 'shop'] },
    {
      id: 'lot',
      label: 'code of the lot',
      words: ['lot', 'batch', 'lot code', 'code', 'lot number', 'charge'],
    },
    {
      id: 'received',
      label: 'day it came',
      words: ['received', 'date', 'day', 'came', 'bought', 'bought on', 'delivered'],
    },
    {
      id: 'best_before',
      label: 'best before',
      words: ['best before', 'best_before', 'bbe', 'expiry', 'expires', 'use by'],
    },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks'] },
  ],
  materials: [
    { id: 'name', label: 'name', needed: true, words: ['name', 'material', 'ingredient', 'item'] },
    { id: 'like', label: 'what it is like here', words: ['like', 'same as', 'kind', 'type', 'is'] },
    { id: 'label', label: 'name on labels', words: ['label', 'inci', 'label name'] },
    { id: 'also', label: 'other names', words: ['also', 'other names', 'aliases', 'synonyms'] },
    { id: 'strength', label: 'strength', words: ['strength', 'concentration', 'percent', '%', 'active'] },
    { id: 'density', label: 'density, g/ml', words: ['density', 'g/ml'] },
    {
      id: 'hazards',
      label: 'hazard statements',
      words: ['hazards', 'hazard', 'h statements', 'statements', 'h-statements'],
    },
    { id: 'sealed_days', label: 'keeps sealed, days', words: ['keeps', 'sealed', 'shelf life', 'days'] },
    { id: 'open_days', label: 'keeps open, days', words: ['open', 'opened', 'once open'] },
    { id: 'function', label: 'what it is for', words: ['function', 'for', 'use'] },
    { id: 'form', label: 'form', words: ['form'] },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks'] },
  ],
  orders: [
    {
      id: 'good',
      label: 'good',
      needed: true,
      words: ['good', 'product', 'item', 'what', 'name', 'article'],
    },
    { id: 'jars', label: 'jars', words: ['jars', 'number', 'count', 'quantity', 'qty', 'pieces', 'amount'] },
    {
      id: 'day',
      label: 'by which day',
      needed: true,
      words: ['day', 'date', 'by', 'due', 'for', 'when', 'wanted'],
    },
    { id: 'to', label: 'for whom', words: ['to', 'customer', 'outlet', 'who', 'client', 'shop', 'for whom'] },
    { id: 'every_weeks', label: 'every so many weeks', words: ['every', 'weeks', 'every weeks', 'repeat'] },
    { id: 'until', label: 'until', words: ['until', 'till', 'ends'] },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks'] },
  ],
  jars: [
    {
      id: 'good',
      label: 'good, by the name of its formula',
      needed: true,
      words: ['good', 'product', 'item', 'what', 'name', 'article', 'formula'],
    },
    {
      id: 'jars',
      label: 'jars',
      needed: true,
      words: ['jars', 'number', 'count', 'quantity', 'qty', 'pieces', 'how many'],
    },
    {
      id: 'amount',
      label: 'what one holds, with its unit',
      needed: true,
      words: [
        'holds',
        'one holds',
        'each',
        'net weight',
        'weight',
        'size',
        'contents',
        'net',
        'amount',
        ...inHeads,
      ],
    },
    { id: 'unit', label: 'its unit, where it stands apart', words: ['unit', 'units', 'measure'] },
    {
      id: 'made',
      label: 'day it was made',
      needed: true,
      words: ['made', 'day', 'date', 'made on', 'produced', 'batch date'],
    },
    {
      id: 'best_before',
      label: 'best before',
      words: ['best before', 'best_before', 'bbe', 'expiry', 'expires', 'use by'],
    },
    { id: 'cost', label: 'what one cost', words: ['cost', 'cost each', 'cost of each', 'unit cost'] },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks', 'batch', 'code', 'lot'] },
  ],
  formulas: [
    {
      id: 'formula',
      label: 'formula',
      needed: true,
      words: ['formula', 'recipe', 'good', 'product', 'name'],
    },
    {
      id: 'material',
      label: 'what goes in',
      needed: true,
      words: ['material', 'ingredient', 'ingredients', 'item', 'what'],
    },
    { id: 'amount', label: 'how much', words: ['amount', 'quantity', 'weight', 'how much', ...inHeads] },
    { id: 'unit', label: 'its unit, where it stands apart', words: ['unit', 'units', 'measure'] },
    { id: 'kind', label: 'kind of good', words: ['kind', 'type', 'category'] },
    { id: 'note', label: 'note', words: ['note', 'notes', 'remark', 'remarks'] },
  ],
} satisfies Record<string, Field[]>

export type What = keyof typeof fields

/** What sheets hold, as it is chosen, and what one row of them comes to when it is taken. */
export const kinds = [
  { value: 'formulas', label: 'formulas', one: 'formula' },
  { value: 'materials', label: 'materials of our own', one: 'material' },
  { value: 'lots', label: 'lots that were bought', one: 'lot' },
  { value: 'jars', label: 'jars made before', one: 'row' },
  { value: 'orders', label: 'orders', one: 'order' },
  { value: 'sales', label: 'sales, gifts and returns', one: 'row' },
  { value: 'outlets', label: 'who takes jars', one: 'row' },
] as const satisfies readonly { value: What; label: string; one: string }[]

export const isWhat = (text: unknown): text is What => kinds.some((k) => k.value === text)

/** A head without what stands in brackets behind it, in small letters. */
const bare = (head: string) =>
  head
    .toLowerCase()
    .replace(/\s*\([^)]*\)\s*$/, '')
    .trim()

/** The unit that a head says its numbers are in; empty where it says none. */
export function unitOf(head: string): string {
  const low = head.toLowerCase().trim()
  const inside = /\(\s*(?:in\s+)?([^)]*?)\s*\)$/.exec(low)?.[1]
  return units[inside ?? low] ?? ''
}

/** Which column each field is, by its number; none where no head says so. What somebody
 * matched before stands before what the words say. */
export function matched(
  what: What,
  head: string[],
  before: Record<string, string> = {},
): Record<string, number> {
  const low = head.map((h) => bare(h))
  const out: Record<string, number> = {}
  const free = (i: number) => i >= 0 && !Object.values(out).includes(i)
  for (const f of fields[what]) {
    const chosen = low.indexOf(bare(before[f.id] ?? ''))
    if (before[f.id] && free(chosen)) out[f.id] = chosen
  }
  for (const f of fields[what]) {
    if (f.id in out) continue
    const at = f.words.map((w) => low.indexOf(w)).find(free)
    if (at !== undefined) out[f.id] = at
  }
  return out
}

/** A row as it is brought in: its line in the file, and its cells by their fields. */
export type Row = { row: number } & { [field: string]: string | number | undefined }

/** The rows of a sheet as they are brought in. A mere number takes the unit of its column. */
export function rowsOf(read: Schemas['SheetRead'], columns: Record<string, number>): Row[] {
  const { unit, ...rest } = columns
  const ofHead = unitOf(read.head[columns.amount ?? -1] ?? '')
  return read.rows.map((cells, i) => {
    const row: Row = { row: read.first + i }
    for (const [id, at] of Object.entries(rest)) if (cells[at]) row[id] = cells[at].slice(0, 400)
    const own = (unit === undefined ? '' : (cells[unit] ?? '')) || ofHead
    if (own && /^\d+(?:[.,]\d+)?$/.test(String(row.amount ?? ''))) row.amount = `${row.amount} ${own}`
    return row
  })
}

/** Rows in parts of about so many, none of which ends within a formula: its rows follow each
 * other, the name on each or on the first of them. */
export function parted(what: What, rows: Row[], part: number): Row[][] {
  const out: Row[][] = []
  let name = ''
  for (const row of rows) {
    const of = String(row.formula ?? '').trim()
    const begins = what !== 'formulas' || (of !== '' && of !== name)
    if (of) name = of
    const last = out.at(-1)
    if (!last || (last.length >= part && begins)) out.push([row])
    else last.push(row)
  }
  return out
}

/** How a column is called in a spreadsheet: A, B, … AA. */
export function letters(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : letters(Math.floor(at / 26) - 1) + letters(at % 26)
}
