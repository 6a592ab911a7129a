import { useQuery } from '@tanstack/vue-query'
import dayjs from 'dayjs'
import type { MaybeRefOrGetter } from 'vue'
import { computed, toValue } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { fromNow } from '../../words'

export type Vessel = Schemas['Vessel']

/** The vats that are in use. */
export const useVessels = () =>
  useQuery({
    queryKey: ['rack', 'list'],
    queryFn: () => ask(api.GET('/api/vessels')),
    refetchInterval: 300_000,
  })

/** One vat with all that was done to it. */
export const useVessel = (id: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['rack', 'one', toValue(id)]),
    queryFn: () => ask(api.GET('/api/vessels/{id}', { params: { path: { id: toValue(id) } } })),
    enabled: computed(() => !['', 'new'].includes(toValue(id))),
  })

/** A volume as it is poured: litres from one on. */
export function volume(ml: number): string {
  return ml >= 1000
    ? `${(ml / 1000).toLocaleString('en', { maximumFractionDigits: 2 })} l`
    : `${Math.round(ml)} ml`
}

/** An age in days, or in months once it is long. */
export function age(days: number): string {
  if (days < 1) return 'less than a day'
  if (days < 60) return `${Math.round(days)} ${Math.round(days) === 1 ? 'day' : 'days'}`
  return `${(days / 30.4).toFixed(1)} months`
}

/** What is due, in words: "stir, in 2 days". */
export const dueWords = (d: Schemas['VesselDue']) => `${d.what}, ${fromNow(d.at)}`

/** The tint of a band of age, the youngest lightest. */
export const tints = [
  'var(--celadon-wash)',
  'var(--clay-line)',
  'var(--clay)',
  'var(--ochre)',
  'var(--ink-soft)',
]

export const when = (at: string) => dayjs(at).format('D MMM HH:mm')
