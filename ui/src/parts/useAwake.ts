import { onScopeDispose, watch } from 'vue'

/** Keeps the screen awake while something holds, where the browser can: wet hands do not wake it. */
export function useAwake(holds: () => boolean) {
  if (!('wakeLock' in navigator)) return
  let lock: WakeLockSentinel | undefined
  async function hold() {
    if (!holds() || document.visibilityState !== 'visible' || (lock && !lock.released)) return
    try {
      lock = await navigator.wakeLock.request('screen')
    } catch {
      lock = undefined // a battery that runs low says no
    }
  }
  const release = () => void lock?.release().then(() => (lock = undefined))
  const stop = watch(holds, (now) => (now ? void hold() : release()), { immediate: true })
  document.addEventListener('visibilitychange', hold)
  onScopeDispose(() => {
    stop()
    document.removeEventListener('visibilitychange', hold)
    release()
  })
}
