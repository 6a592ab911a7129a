import { onScopeDispose, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { followStream } from '../../api/stream'

/** The live reading of the scale on the bench, where there is one, and what can be done to it. */
export function useScale(there: boolean) {
  const reading = ref<Schemas['ScaleReading'] | null>(null)
  if (!there) return { reading, touch: () => Promise.resolve() }
  const stop = followStream(
    '/api/scale/stream',
    { reading: (r) => (reading.value = r as Schemas['ScaleReading']) },
    () => (reading.value = null),
  )
  onScopeDispose(stop)

  async function touch(body: Schemas['ScaleTouch']) {
    reading.value = await ask(api.POST('/api/scale', { body }))
  }
  return { reading, touch }
}
