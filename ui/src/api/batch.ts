import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'

import { grams, sentence } from '../words'
import { api, ask, ProblemError, type Schemas } from './client'
import { foresee } from './foresee'
import { sendOrKeep, type BatchCalls, type Calls } from './outbox'

export type Batch = Schemas['Batch']
export type Step = Schemas['BatchStep']

/** A batch as it stands, and what can be done to it from the bench or the rack. */
export function useBatch(id: string) {
  const client = useQueryClient()
  const params = { path: { id } }
  const problem = ref<Schemas['Problem'] | null>(null)

  const { data: batch, error: missing } = useQuery({
    queryKey: ['batch', id],
    queryFn: () => ask(api.GET('/api/batches/{id}', { params })),
    retry: false,
  })

  function took(b: Batch) {
    problem.value = null
    client.setQueryData(['batch', id], b)
    void client.invalidateQueries({ queryKey: ['rack'] })
    void client.invalidateQueries({ queryKey: ['waiting'] })
  }
  function failed(e: unknown) {
    problem.value =
      e instanceof ProblemError
        ? e.problem
        : { type: '', title: '', status: 0, code: '', detail: sentence(e) }
    // someone else was faster: show what they did
    if (problem.value.status === 409) void client.invalidateQueries({ queryKey: ['batch', id] })
  }
  const onto = { onSuccess: took, onError: failed }

  /** Does what may wait for the line: the batch then, as it is or as it will be. */
  async function record<P extends keyof BatchCalls>(
    path: P,
    body: BatchCalls[P],
    said: string,
  ): Promise<Batch> {
    const before = batch.value
    const sent = (await sendOrKeep(id, path, body as Calls[P], said)) as Batch | null
    if (sent) return sent
    if (!before) throw new Error('There is no batch here.')
    return foresee(before, path, body)
  }

  const lineName = (line: number) => batch.value?.lines[line]?.name ?? 'a line'
  const weigh = (body: Schemas['Weighing']) =>
    record('/api/batches/{id}/weighings', body, `${grams(body.grams)} ${lineName(body.line)}`)

  const act = useMutation({
    mutationFn: (body: Schemas['BatchAct']) => {
      const step = body.step === undefined ? '' : `${batch.value?.steps?.[body.step]?.name ?? 'step'}: `
      return record('/api/batches/{id}/acts', body, `${step}${body.kind.replace('-', ' ')}`)
    },
    ...onto,
  })
  const add = useMutation({
    mutationFn: (body: Schemas['Addition']) => ask(api.POST('/api/batches/{id}/lines', { params, body })),
    ...onto,
  })
  const tryOut = useMutation({
    mutationFn: (body: Schemas['Addition']) => ask(api.POST('/api/batches/{id}/try', { params, body })),
    onError: failed,
  })
  const keepBack = useMutation({
    mutationFn: (body: Schemas['KeptBack']) => ask(api.POST('/api/batches/{id}/kept', { params, body })),
    ...onto,
  })
  const pack = useMutation({
    mutationFn: (body: Schemas['Pack']) => ask(api.POST('/api/batches/{id}/packs', { params, body })),
    ...onto,
  })
  const finish = useMutation({
    mutationFn: (body: Schemas['Finish']) => ask(api.POST('/api/batches/{id}/finish', { params, body })),
    onSuccess: (b: Batch) => {
      took(b)
      for (const key of ['pantry', 'shelf', 'batches']) void client.invalidateQueries({ queryKey: [key] })
    },
    onError: failed,
  })
  const leaveOut = useMutation({
    mutationFn: (body: Schemas['LeaveOut']) =>
      record(
        '/api/batches/{id}/left-out',
        body,
        `${lineName(body.line)}: ${body.out ? 'left out' : 'taken in'}`,
      ),
    ...onto,
  })
  const note = useMutation({
    mutationFn: (text: string) => record('/api/batches/{id}/notes', { text }, text),
    ...onto,
  })
  const picture = useMutation({
    mutationFn: (body: Schemas['BatchPicture']) =>
      record('/api/batches/{id}/pictures', body, body.text ? `a photo: ${body.text}` : 'a photo'),
    ...onto,
  })
  const measure = useMutation({
    mutationFn: (body: Schemas['MeasuredPh']) =>
      ask(api.POST('/api/batches/{id}/measurements', { params, body })),
    ...onto,
  })
  const correct = useMutation({
    mutationFn: (body: Schemas['BatchCorrection']) =>
      ask(api.POST('/api/batches/{id}/corrections', { params, body })),
    ...onto,
  })
  return {
    id,
    batch,
    missing,
    problem,
    took,
    failed,
    weigh,
    act,
    add,
    tryOut,
    keepBack,
    pack,
    finish,
    leaveOut,
    note,
    picture,
    measure,
    correct,
  }
}

export type Of = ReturnType<typeof useBatch>

/** What the words of a state are. */
export const stateWords: Record<Schemas['BatchState'], string> = {
  weighing: 'is weighed out',
  'in-work': 'in work',
  standing: 'stands',
  packing: 'to be packed',
  finished: 'finished',
  abandoned: 'abandoned',
}

export const isOpen = (b: { state: Schemas['BatchState'] }) =>
  b.state !== 'finished' && b.state !== 'abandoned'
