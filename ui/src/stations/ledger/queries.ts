import { useQuery } from '@tanstack/vue-query'
import type { Ref } from 'vue'

import { api, ask } from '../../api/client'

// What several of its views read.

export const useOutlets = (enabled?: Ref<boolean>) =>
  useQuery({
    queryKey: ['ledger', 'outlets'],
    queryFn: () => ask(api.GET('/api/outlets')),
    meta: { what: 'who takes jars' },
    enabled,
  })

export const useGoodCosts = () =>
  useQuery({ queryKey: ['ledger', 'goods'], queryFn: () => ask(api.GET('/api/ledger/goods')) })

export const usePrices = () =>
  useQuery({ queryKey: ['ledger', 'prices'], queryFn: () => ask(api.GET('/api/ledger/prices')) })

export const useRates = () =>
  useQuery({ queryKey: ['ledger', 'rates'], queryFn: () => ask(api.GET('/api/ledger/rates')) })
