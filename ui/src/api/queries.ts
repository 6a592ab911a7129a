import { useQuery } from '@tanstack/vue-query'
import type { MaybeRefOrGetter } from 'vue'
import { computed, toValue } from 'vue'

import { api, ask } from './client'

// What several stations read. Server state lives here and nowhere else.

export const useMaterials = () =>
  useQuery({ queryKey: ['materials'], queryFn: () => ask(api.GET('/api/materials')), staleTime: 60_000 })

export const useKinds = () =>
  useQuery({ queryKey: ['kinds'], queryFn: () => ask(api.GET('/api/kinds')), staleTime: Infinity })

export const useShelf = () => useQuery({ queryKey: ['shelf'], queryFn: () => ask(api.GET('/api/shelf')) })

export const useFormulas = () =>
  useQuery({ queryKey: ['formulas', 'list'], queryFn: () => ask(api.GET('/api/formulas')) })

export const usePantry = (all: MaybeRefOrGetter<boolean> = false) =>
  useQuery({
    queryKey: computed(() => ['pantry', toValue(all)]),
    queryFn: () => ask(api.GET('/api/pantry', { params: { query: { all: toValue(all) } } })),
  })

export const useWaiting = () =>
  useQuery({ queryKey: ['waiting'], queryFn: () => ask(api.GET('/api/waiting')), refetchInterval: 60_000 })

export const useOpenBatches = () =>
  useQuery({
    queryKey: ['batches', 'weighing'],
    queryFn: () => ask(api.GET('/api/batches', { params: { query: { state: 'weighing', limit: 20 } } })),
  })

export const useLotTrace = (lot: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['pantry', 'lot', toValue(lot)]),
    queryFn: () => ask(api.GET('/api/lots/{id}/trace', { params: { path: { id: toValue(lot) } } })),
    enabled: computed(() => toValue(lot) !== ''),
  })
