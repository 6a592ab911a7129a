import { computed, ref, watch } from 'vue'

import { api, ask, onSignedOut, ProblemError, useToken, type Schemas } from './client'
import { forgetRead } from './standIn'

export const session = ref<Schemas['Session'] | null>(null)
/** What can be begun from here: a workshop of one's own, the demo. */
export const setup = ref<Schemas['Setup']>({ needed: false, can_begin: false })
export const ready = ref(false)

export const currency = computed(() => session.value?.workshop.currency ?? 'EUR')
export const canMake = computed(() => session.value?.person.role !== 'viewer')
export const isOwner = computed(() => session.value?.person.role === 'owner')

const inPlace = 'keencrock.in'

function enter(s: Schemas['Session']) {
  useToken(s.csrf_token)
  session.value = s
  localStorage.setItem(inPlace, '1')
}

/** Whether somebody was signed in here last: a guess of what will be shown, and no more. */
export const wasIn = () => localStorage.getItem(inPlace) !== null

let renewing = false // the session of before ends while the new one is on its way

onSignedOut(() => {
  if (renewing) return
  session.value = null
  void forgetRead()
})

/** Waits until somebody is signed in. */
export const signedIn = () =>
  new Promise<void>((on) => {
    const stop = watch(
      session,
      (s) => {
        if (!s) return
        on()
        queueMicrotask(() => stop())
      },
      { immediate: true },
    )
  })

/** Finds out, once, whether someone is signed in or a workshop has to be made. */
export async function restore() {
  // a stranger is asked for what can be begun too: both at once, on a slow line
  const looked = wasIn() ? undefined : lookAtSetup()
  try {
    enter(await ask(api.GET('/api/session')))
    looked?.catch(() => {}) // not needed any more
  } catch (e) {
    if (!(e instanceof ProblemError) || e.problem.status !== 401) throw e
    localStorage.removeItem(inPlace)
    await (looked ?? lookAtSetup())
  } finally {
    ready.value = true
  }
}

export async function lookAtSetup() {
  setup.value = await ask(api.GET('/api/setup'))
}

export async function signIn(credentials: Schemas['Credentials']) {
  enter(await ask(api.POST('/api/session', { body: credentials })))
}

/** Changes one's password: a new session begins, and all others end. */
export async function changePassword(change: Schemas['PasswordChange']) {
  renewing = true
  try {
    enter(await ask(api.PUT('/api/session/password', { body: change })))
  } finally {
    renewing = false
  }
}

export async function removeDemo() {
  await ask(api.DELETE('/api/demo'))
  session.value = null
  await forgetRead()
  await lookAtSetup()
}

export async function makeWorkshop(body: Schemas['NewWorkshop']) {
  enter(await ask(api.POST('/api/setup', { body })))
}

export async function signOut(everywhere = false) {
  await ask(api.DELETE('/api/session', { params: { query: { everywhere } } }))
  session.value = null
  await forgetRead()
  await lookAtSetup()
}
