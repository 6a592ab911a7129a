import { useQuery } from '@tanstack/vue-query'

import { api, ask } from '../../api/client'
import { canMake } from '../../api/session'

/** The plan as things are. */
export const usePlan = () =>
  useQuery({ queryKey: ['almanac', 'plan'], queryFn: () => ask(api.GET('/api/plan')), enabled: canMake })

/** Within which limits it is made. */
export const useLimits = () =>
  useQuery({
    queryKey: ['almanac', 'limits'],
    queryFn: () => ask(api.GET('/api/plan/limits')),
    meta: { what: 'the limits of the plan' },
    enabled: canMake,
  })
