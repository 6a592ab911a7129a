import type { QueryClient } from '@tanstack/vue-query'

import type { Schemas } from './client'
import { followStream } from './stream'

const touched: Record<Schemas['Change']['topic'], string[]> = {
  shelf: ['shelf', 'lots', 'materials', 'waiting', 'assess', 'plan'],
  formulas: ['formulas'],
  batches: ['batches', 'batch', 'waiting'],
  pantry: ['pantry', 'waiting'],
  workshop: ['workshop'],
  people: ['people'],
}

/** Keeps what is shown up to date with what others do. Returns how to stop. */
export function followChanges(client: QueryClient): () => void {
  let connectedBefore = false
  return followStream('/api/events', {
    ready: () => {
      if (connectedBefore) void client.invalidateQueries() // changes may have been missed
      connectedBefore = true
    },
    change: (change) => {
      for (const key of touched[(change as Schemas['Change']).topic])
        void client.invalidateQueries({ queryKey: [key] })
    },
  })
}
