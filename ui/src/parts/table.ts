// What lists of hundreds have in common: to be searched by words, and taken along.

/** Whether a text holds each of the words that are looked for, in any order. */
export function holds(text: string, wanted: string): boolean {
  const low = text.toLowerCase()
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => low.includes(word))
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

/** Hands a text to the browser as a file. */
export function download(name: string, text: string, type = 'text/csv;charset=utf-8') {
  const at = URL.createObjectURL(new Blob(['\ufeff', text], { type }))
  const link = Object.assign(document.createElement('a'), { href: at, download: name })
  link.click()
  URL.revokeObjectURL(at)
}
