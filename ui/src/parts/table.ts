// What lists of hundreds have in common: to be searched by words, and taken along.

/** Whether a text holds each of the words that are looked for, in any order. */
export function holds(text: string, wanted: string): boolean {
  const low = text.toLowerCase()
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => low.includes(word))
}

/** A list as it is taken along: the name of its file without an ending, the head of its table,
 * its rows. */
export interface Along {
  file: string
  head: string[]
  rows: (string | number | undefined)[][]
}

/** What a list is taken along as. */
export type Format = 'csv' | 'xlsx'

/** Columns whose cells are numbers or days, as far as all of them are. What is a code stays as
 * it is written, however many figures it has: none of it begins with a zero by chance. */
export function typed(rows: Along['rows']): number[] {
  const written = /^(?:-?(?:0|[1-9]\d*)(?:\.\d+)?|\d{4}-\d\d-\d\d)$/
  const most = Math.max(0, ...rows.map((r) => r.length))
  return Array.from({ length: most }, (_, c) => c).filter((c) => {
    const cells = rows.map((r) => String(r[c] ?? '')).filter((text) => text !== '')
    return cells.length > 0 && cells.every((text) => written.test(text))
  })
}

/** A cell of a CSV file; one that a spreadsheet would reckon out is kept as text. */
const cell = (value: string | number | undefined) => {
  const text = String(value ?? '')
  const safe = typeof value === 'string' && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
}

/** Rows as a CSV file (RFC 4180), the first of them the head. */
export const csv = (rows: (string | number | undefined)[][]) =>
  rows.map((row) => row.map(cell).join(',') + '\r\n').join('')

/** Hands a text, or a file that was made elsewhere, to the browser as a file. */
export function download(name: string, content: string | Blob, type = 'text/csv;charset=utf-8') {
  const at = URL.createObjectURL(
    typeof content === 'string' ? new Blob(['\ufeff', content], { type }) : content,
  )
  const link = Object.assign(document.createElement('a'), { href: at, download: name })
  link.click()
  URL.revokeObjectURL(at)
}
