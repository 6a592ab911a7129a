import type { QueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'

import { api, ask, type Schemas } from './client'
import { followStream } from './stream'

/** How far what takes long is: what it is about, how much is done, of how much. */
export const progress = ref<{ about: string; done: number; of: number }>()

function hearProgress(id: string) {
  const [, about, done, of] = /^(\S+) (\d+)\/(\d+)$/.exec(id) ?? []
  if (about) progress.value = { about, done: Number(done), of: Number(of) }
}

/** Keeps what is shown up to date with what others do; says each topic that changed. Returns how to stop. */
export function followChanges(
  client: QueryClient,
  changed: (topic: Schemas['Change']['topic']) => void,
): () => void {
  let connectedBefore = false
  const hear = (c: Schemas['Change']) => {
    if (c.topic === 'progress') hearProgress(c.id ?? '')
    else changed(c.topic)
  }
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
      change: (change) => hear(change as Schemas['Change']),
    },
    look,
  )
}
