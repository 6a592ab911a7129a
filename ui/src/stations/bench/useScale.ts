import { onScopeDispose, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'

/** The live reading of the scale on the bench, and what can be done to it. */
export function useScale() {
  const reading = ref<Schemas['ScaleReading'] | null>(null)
  const source = new EventSource('/api/scale/stream')
  source.addEventListener('reading', (e) => {
    reading.value = JSON.parse((e as MessageEvent<string>).data) as Schemas['ScaleReading']
  })
  source.addEventListener('error', () => (reading.value = null))
  onScopeDispose(() => source.close())

  async function touch(body: Schemas['ScaleTouch']) {
    reading.value = await ask(api.POST('/api/scale', { body }))
  }
  return { reading, touch }
}
