import { ref, watchEffect } from 'vue'

import type { Along, Format } from './table'

/** What of a list in pages is needed to read it to its end. */
type Pages = {
  hasNextPage: { value: boolean }
  isFetching: { value: boolean }
  isError: { value: boolean }
  fetchNextPage: () => unknown
}

/**
 * Reads a list in pages to its end for as long as all of it is wanted: to be searched, put in
 * another order, or taken along. Set `taking` to a format, and it is sent in that once it is read.
 */
export function useWhole(
  list: Pages,
  wanted: () => boolean,
  along: () => Along,
  send: (as: Format, what: Along) => unknown,
) {
  const taking = ref<Format>()
  watchEffect(() => {
    if ((wanted() || taking.value) && list.hasNextPage.value && !list.isFetching.value && !list.isError.value)
      void list.fetchNextPage()
  })
  watchEffect(() => {
    if (!taking.value || list.hasNextPage.value || list.isFetching.value) return
    const as = taking.value
    taking.value = undefined
    void send(as, along())
  })
  return taking
}
