import { useQuery } from '@tanstack/vue-query'

import { api, ask } from '../../api/client'

/** What comes round. */
export const useChores = () =>
  useQuery({
    queryKey: ['rack', 'chores'],
    queryFn: () => ask(api.GET('/api/chores')),
    meta: { what: 'what comes round' },
  })
