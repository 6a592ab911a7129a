import { computed, ref } from 'vue'

import { api, ask, onSignedOut, ProblemError, useToken, type Schemas } from './client'

export const session = ref<Schemas['Session'] | null>(null)
export const setupNeeded = ref(false)
export const ready = ref(false)

export const currency = computed(() => session.value?.workshop.currency ?? 'EUR')
export const canMake = computed(() => session.value?.person.role !== 'viewer')
export const isOwner = computed(() => session.value?.person.role === 'owner')

function enter(s: Schemas['Session']) {
  useToken(s.csrf_token)
  session.value = s
}

onSignedOut(() => {
  session.value = null
})

/** Finds out, once, whether someone is signed in or a workshop has to be made. */
export async function restore() {
  try {
    enter(await ask(api.GET('/api/session')))
  } catch (e) {
    if (!(e instanceof ProblemError) || e.problem.status !== 401) throw e
    setupNeeded.value = (await ask(api.GET('/api/setup'))).needed
  } finally {
    ready.value = true
  }
}

export async function signIn(login: string, password: string) {
  enter(await ask(api.POST('/api/session', { body: { login, password } })))
}

export async function makeWorkshop(body: Schemas['NewWorkshop']) {
  enter(await ask(api.POST('/api/setup', { body })))
  setupNeeded.value = false
}

export async function signOut(everywhere = false) {
  await ask(api.DELETE('/api/session', { params: { query: { everywhere } } }))
  session.value = null
}
