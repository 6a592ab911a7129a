import { api, ask } from './api/client'
import { csv, download, typed, type Along, type Format } from './parts/table'

/** Takes a list along as it stands on the page: as CSV, or as a workbook that the server makes,
 * with numbers as numbers and days as days. */
export async function takeAlong(as: Format, { file, head, rows }: Along) {
  if (as === 'csv') {
    download(`${file}.csv`, csv([head, ...rows]))
    return
  }
  const made = await ask(
    api.POST('/api/workbooks', {
      body: {
        name: file,
        head,
        rows: rows.map((row) => row.map((cell) => String(cell ?? ''))),
        typed: typed(rows).filter((c) => c < head.length),
      },
      parseAs: 'blob',
    }),
  )
  download(`${file}.xlsx`, made as unknown as Blob)
}
