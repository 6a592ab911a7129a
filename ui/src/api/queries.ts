import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import type { MaybeRefOrGetter } from 'vue'
import { computed, toValue } from 'vue'

import { isOpen } from './batch'
import { api, ask, type Schemas } from './client'

// What several stations read. Server state lives here and nowhere else.

export const useMaterials = () =>
  useQuery({
    queryKey: ['materials'],
    queryFn: () => ask(api.GET('/api/materials')),
    staleTime: 60_000,
    meta: { what: 'the materials' },
  })

export const useKinds = () =>
  useQuery({
    queryKey: ['kinds'],
    queryFn: () => ask(api.GET('/api/kinds')),
    staleTime: Infinity,
    meta: { what: 'the kinds of goods' },
  })

export const useShelf = () => useQuery({ queryKey: ['shelf'], queryFn: () => ask(api.GET('/api/shelf')) })

export const useFormulas = () =>
  useQuery({ queryKey: ['formulas', 'list'], queryFn: () => ask(api.GET('/api/formulas')) })

/** Where a page begins. Those after the first are long: who reads on reads to the end. */
const page = (after: string) => (after ? { after, limit: 200 } : {})

/** Batches that were made before, newest first, a page at a time. */
export function useEarlierBatches() {
  const query = useInfiniteQuery({
    queryKey: ['batches', 'earlier'],
    queryFn: ({ pageParam }) =>
      ask(api.GET('/api/batches', { params: { query: { limit: 20, ...page(pageParam) } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  })
  return {
    ...query,
    batches: computed(() => query.data.value?.pages.flatMap((p) => p.batches).filter((b) => !isOpen(b))),
  }
}

/** Finished goods, those with something left or all, newest first, a page at a time. */
export function usePantry(all: MaybeRefOrGetter<boolean> = false) {
  const query = useInfiniteQuery({
    queryKey: computed(() => ['pantry', 'list', toValue(all)]),
    queryFn: async ({ pageParam }) => {
      const call = api.GET('/api/pantry', {
        params: { query: { all: toValue(all), ...page(pageParam) } },
      })
      const goods = await ask(call)
      return { goods, next: (await call).response.headers.get('Next-Page') || undefined }
    },
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  })
  return { ...query, goods: computed(() => query.data.value?.pages.flatMap((p) => p.goods)) }
}

/** What one batch made. */
export const useGood = (batch: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['pantry', 'one', toValue(batch)]),
    queryFn: () => ask(api.GET('/api/pantry/{id}', { params: { path: { id: toValue(batch) } } })),
    enabled: computed(() => toValue(batch) !== ''),
  })

/** The lots of a material, the newest first, a page at a time. */
export function useLots(material: MaybeRefOrGetter<string>) {
  const query = useInfiniteQuery({
    queryKey: computed(() => ['lots', toValue(material)]),
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/lots', {
          params: { query: { material: toValue(material), empty: true, ...page(pageParam) } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  })
  return { ...query, lots: computed(() => query.data.value?.pages.flatMap((p) => p.lots) ?? []) }
}

/** The lots that have just the code that is typed. */
export function useLotsByCode(words: MaybeRefOrGetter<string>) {
  const code = computed(() => toValue(words).trim())
  return useQuery({
    queryKey: computed(() => ['lots', 'by code', code.value]),
    queryFn: async () =>
      (await ask(api.GET('/api/lots', { params: { query: { code: code.value, empty: true } } }))).lots,
    enabled: computed(() => code.value.length > 1 && code.value.length <= 60),
  })
}

export const useWaiting = () =>
  useQuery({
    queryKey: ['waiting'],
    queryFn: () => ask(api.GET('/api/waiting')),
    refetchInterval: 60_000,
    meta: { what: 'what waits' },
  })

export const useOpenBatches = () =>
  useQuery({
    queryKey: ['batches', 'open'],
    queryFn: () => ask(api.GET('/api/batches', { params: { query: { state: 'open', limit: 100 } } })),
  })

/** What stands and waits, and the timers that run. */
export const useRack = () =>
  useQuery({
    queryKey: ['rack', 'standing'],
    queryFn: () => ask(api.GET('/api/rack')),
    refetchInterval: 60_000,
  })

/** What a step can be, and what is looked at on the way. */
export const useStepKinds = () =>
  useQuery({
    queryKey: ['steps'],
    queryFn: () => ask(api.GET('/api/steps')),
    staleTime: Infinity,
    meta: { what: 'what a step can be' },
  })

export const useLotTrace = (lot: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['pantry', 'lot', toValue(lot)]),
    queryFn: () => ask(api.GET('/api/lots/{id}/trace', { params: { path: { id: toValue(lot) } } })),
    enabled: computed(() => toValue(lot) !== ''),
  })

/** What was found to be the cause of what went wrong: of a formula, or of all with none. */
export function useFoundCauses(formula: MaybeRefOrGetter<string>, needed: MaybeRefOrGetter<boolean> = true) {
  const client = useQueryClient()
  const anew = () => {
    void client.invalidateQueries({ queryKey: ['found-causes'] })
    void client.invalidateQueries({ queryKey: ['trials', 'why'] })
  }
  const query = useQuery({
    queryKey: computed(() => ['found-causes', toValue(formula)]),
    queryFn: () =>
      ask(api.GET('/api/found-causes', { params: { query: { formula: toValue(formula) || undefined } } })),
    enabled: computed(() => toValue(needed)),
    meta: { what: 'what was found to be the cause' },
  })
  const keep = useMutation({
    mutationFn: (body: Schemas['NewFoundCause']) => ask(api.POST('/api/found-causes', { body })),
    onSuccess: anew,
  })
  const back = useMutation({
    mutationFn: (id: string) => ask(api.DELETE('/api/found-causes/{id}', { params: { path: { id } } })),
    onSuccess: anew,
  })
  return { ...query, keep, back }
}
