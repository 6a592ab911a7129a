import type { Station } from './stations/station'

const found = import.meta.glob<{ default: Station }>('./stations/*/station.ts', { eager: true })

/** The stations in the order of the work, as their folders say. The number keys go to those above the foot. */
export const stations = Object.values(found)
  .map((m) => m.default)
  .sort((a, b) => a.order - b.order)

export const work = stations.filter((s) => !s.foot)
export const foot = stations.filter((s) => s.foot)
