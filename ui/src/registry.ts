import type { QueryClient } from '@tanstack/vue-query'
import type { Component, ComputedRef, Ref } from 'vue'

import type { Schemas } from './api/types'

/** What the find-or-do box offers: what it says, of what sort it is, where it leads. */
export interface Place {
  text: string
  kind: string
  to: string
}

/** What changed in the workshop. */
export type Topic = Schemas['Change']['topic']

/**
 * A station as the rail, the router, the number keys, find-or-do and the live
 * changes know it. Each folder has one in its station.ts and is found by it.
 */
export interface Station {
  name: string
  title: string
  /** What one does there, in a few words. */
  does: string
  /** Drawn on a 24-unit square, one stroke weight. */
  glyph: string
  /** Its place in the order of the work; the last stand at the foot of the rail and have no number key. */
  order: number
  foot?: boolean
  /** The address below its name, such as "/:id?". */
  address?: string
  page: () => Promise<{ default: Component }>
  /** What can be done there from anywhere. */
  acts?: Place[]
  /** What can be found there, of the words that are typed or of all. */
  find?: (words: Ref<string>) => ComputedRef<Place[]>
  /** What it shows, by query key, that a change of a topic makes old. */
  shows?: Partial<Record<Topic, string[]>>
}

export const station = (s: Station): Station => s

/** The stations in the order of the work, as [register] was told. The number keys go to those above the foot. */
export const stations: Station[] = []

/** Says which stations there are: once, before anything is shown. */
export function register(all: Station[]) {
  stations.splice(0, stations.length, ...all.toSorted((a, b) => a.order - b.order))
}

export const atWork = () => stations.filter((s) => !s.foot)
export const atFoot = () => stations.filter((s) => s.foot)

/** What a change of a topic makes old, over all stations. */
export function makeOld(client: QueryClient, topic: Topic) {
  const keys = new Set(['waiting', ...stations.flatMap((s) => s.shows?.[topic] ?? [])])
  for (const key of keys) void readAnew(client, key)
}

/**
 * Reads anew what stands under a key. What is read for the first time just now was asked for
 * before the change, and would stand as if it were of after it: it is asked for once more.
 */
async function readAnew(client: QueryClient, key: string) {
  const first = (q: { state: { data: unknown; fetchStatus: string } }) =>
    q.state.data === undefined && q.state.fetchStatus === 'fetching'
  await client.cancelQueries({ queryKey: [key], predicate: first })
  await client.invalidateQueries({ queryKey: [key] })
}
