import type { QueryClient } from '@tanstack/vue-query'

import { api, ask, type Schemas } from './client'
import { followStream } from './stream'

/** Keeps what is shown up to date with what others do; says each topic that changed. Returns how to stop. */
export function followChanges(
  client: QueryClient,
  changed: (topic: Schemas['Change']['topic']) => void,
): () => void {
  let connectedBefore = false
  const all = () => void client.invalidateQueries() // changes may have been missed
  // whether the session still lives, and the server answers; a new one may be on its way
  const soon = 500 // ms
  const look = () => void setTimeout(() => void ask(api.GET('/api/session')).catch(() => undefined), soon)
  return followStream(
    '/api/events',
    {
      ready: () => {
        if (connectedBefore) all()
        connectedBefore = true
      },
      resync: all,
      change: (change) => changed((change as Schemas['Change']).topic),
    },
    look,
  )
}
