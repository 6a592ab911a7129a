import { onScopeDispose, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { followStream } from '../../api/stream'

/** The live reading of the scale on the bench, and what can be done to it. */
export function useScale() {
  const reading = ref<Schemas['ScaleReading'] | null>(null)
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
