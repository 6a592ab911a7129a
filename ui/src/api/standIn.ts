import { ref } from 'vue'

import { lastCache, shellCache } from '../workerNames'

// Whether this browser keeps what it read last, to show it while the server does not
// answer. It is asked for, since what is kept lies on the device until one signs out.

const script = '/worker.js'

/** A browser lets pages keep things only where they came safely: over TLS it trusts. */
export const canStandIn = typeof navigator !== 'undefined' && 'serviceWorker' in navigator

export const standsIn = ref(false)

export async function lookForStandIn() {
  if (canStandIn) standsIn.value = !!(await navigator.serviceWorker.getRegistration('/'))
}

export async function letStandIn() {
  await navigator.serviceWorker.register(script, { scope: '/' })
  await navigator.serviceWorker.ready
  standsIn.value = true
}

export async function endStandIn() {
  await (await navigator.serviceWorker.getRegistration('/'))?.unregister()
  await caches.delete(shellCache)
  await forgetRead()
  standsIn.value = false
}

/** Forgets what was read: who signs in next does not see it. */
export async function forgetRead() {
  if ('caches' in globalThis) await caches.delete(lastCache)
}
