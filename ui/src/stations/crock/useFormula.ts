import { useQuery } from '@tanstack/vue-query'
import { computed, watch } from 'vue'

import { api, ask } from '../../api/client'
import { useDraft } from './useDraft'

/** A formula as it is kept, with the draft of it that is being written here. */
export function useFormula(id: string) {
  const isNew = id === 'new'
  const draft = useDraft(id)
  const { data: stored, error: missing } = useQuery({
    queryKey: ['formulas', id],
    queryFn: () => ask(api.GET('/api/formulas/{id}', { params: { path: { id: id } } })),
    enabled: !isNew,
    retry: false,
  })
  if (isNew) draft.load(null)
  const newer = computed(
    () => !isNew && !!stored.value && draft.base.value > 0 && stored.value.version > draft.base.value,
  )
  watch(
    stored,
    (s) => {
      if (!s) return
      // someone else's new version is taken over unless something here would be lost
      if (draft.base.value === 0 || !draft.dirty.value) draft.load(s)
    },
    { immediate: true },
  )
  return { isNew, draft, stored, missing, newer }
}
