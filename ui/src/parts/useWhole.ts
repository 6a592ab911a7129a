import { watchEffect } from 'vue'

/** What of a list in pages is needed to read it to its end. */
type Pages = {
  hasNextPage: { value: boolean }
  isFetching: { value: boolean }
  isError: { value: boolean }
  fetchNextPage: () => unknown
}

/** Reads a list in pages to its end for as long as all of it is wanted: to be searched, put in
 * another order, or taken along. */
export function useWhole(list: Pages, wanted: () => boolean) {
  watchEffect(() => {
    if (wanted() && list.hasNextPage.value && !list.isFetching.value && !list.isError.value)
      void list.fetchNextPage()
  })
}
