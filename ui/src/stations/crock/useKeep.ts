import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { canMake } from '../../api/session'
import type { FormulaFile, useDraft } from './useDraft'

/** Keeping a draft as a version, and what else can be done with a formula that is kept. */
export function useKeep(id: string, draft: ReturnType<typeof useDraft>) {
  const isNew = id === 'new'
  const { file } = draft
  const route = useRoute()
  const router = useRouter()
  const client = useQueryClient()
  const conflict = ref<Schemas['Problem'] | null>(null)
  const sent = shallowRef<FormulaFile>() // what was last tried to keep
  const save = useMutation({
    mutationFn: (base: number) =>
      isNew
        ? ask(api.POST('/api/formulas', { body: file.value }))
        : ask(
            api.PUT('/api/formulas/{id}', {
              params: { path: { id: id } },
              body: { base_version: base, file: file.value },
            }),
          ),
    onSuccess: (s) => {
      conflict.value = null
      draft.kept(s, sent.value)
      client.setQueryData(['formulas', s.id], s)
      void client.invalidateQueries({ queryKey: ['formulas', 'list'] })
      if (isNew) void router.replace({ path: `/crock/${s.id}`, query: route.query })
    },
    onError: (e) => {
      if (e instanceof ProblemError && e.problem.code === 'stale') conflict.value = e.problem
    },
  })
  const saveTrouble = computed(() =>
    save.error.value && !conflict.value && sent.value === file.value ? sentence(save.error.value) : '',
  )

  function send(base: number) {
    sent.value = file.value
    save.mutate(base)
  }

  function keep() {
    if (canMake.value && draft.dirty.value) send(draft.base.value)
  }

  const hide = useMutation({
    mutationFn: () => ask(api.DELETE('/api/formulas/{id}', { params: { path: { id: id } } })),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['formulas'] })
      void router.push('/crock')
    },
  })

  const copy = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/formulas', { body: { ...file.value, name: `${file.value.name}, another` } })),
    onSuccess: (s) => {
      void client.invalidateQueries({ queryKey: ['formulas', 'list'] })
      void router.push(`/crock/${s.id}`)
    },
  })
  const bringBack = useMutation({
    mutationFn: () => ask(api.POST('/api/formulas/{id}/bring-back', { params: { path: { id: id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['formulas'] }),
  })

  function takeTheirs() {
    const current = conflict.value?.current
    if (current) draft.kept(current)
    conflict.value = null
  }
  return { save, saveTrouble, conflict, send, keep, hide, copy, bringBack, takeTheirs }
}
