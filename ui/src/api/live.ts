import type { QueryClient } from '@tanstack/vue-query'

import type { Schemas } from './client'

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
  const source = new EventSource('/api/events')
  let connectedBefore = false
  source.addEventListener('ready', () => {
    if (connectedBefore) void client.invalidateQueries() // changes may have been missed
    connectedBefore = true
  })
  source.addEventListener('change', (e) => {
    const change = JSON.parse((e as MessageEvent<string>).data) as Schemas['Change']
    for (const key of touched[change.topic]) void client.invalidateQueries({ queryKey: [key] })
  })
  return () => source.close()
}
