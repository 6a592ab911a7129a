import { ref, watchEffect } from 'vue'

import { csv, download } from './table'

/** What of a list in pages is needed to read it to its end. */
type Pages = {
  hasNextPage: { value: boolean }
  isFetching: { value: boolean }
  isError: { value: boolean }
  fetchNextPage: () => unknown
}

/** A list as it is taken along: the name of its file, the head of its table, its rows. */
export interface Along {
  file: string
  head: string[]
  rows: (string | number | undefined)[][]
}

/**
 * Reads a list in pages to its end for as long as all of it is wanted: to be searched, put in
 * another order, or taken along. Set `taking`, and it is taken along as CSV once it is read.
 */
export function useWhole(list: Pages, wanted: () => boolean, along: () => Along) {
  const taking = ref(false)
  watchEffect(() => {
    if ((wanted() || taking.value) && list.hasNextPage.value && !list.isFetching.value && !list.isError.value)
      void list.fetchNextPage()
  })
  watchEffect(() => {
    if (!taking.value || list.hasNextPage.value || list.isFetching.value) return
    taking.value = false
    const { file, head, rows } = along()
    download(file, csv([head, ...rows]))
  })
  return taking
}
