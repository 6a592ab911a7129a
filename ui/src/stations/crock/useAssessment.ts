import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'

import { api, ask } from '../../api/client'
import { useLast } from '../../parts/useLast'
import { useSettled } from '../../parts/useSettled'
import type { FormulaFile } from './useDraft'
import type { useWater } from './useWater'

/** What is known of a formula while it is written, in a water. */
export function useAssessment(file: Ref<FormulaFile>, inWater: ReturnType<typeof useWater>['query']) {
  const question = computed(() => ({ file: file.value, query: inWater.value }))
  const settled = useSettled(question, 40, true)
  const {
    data: answer,
    error: refused,
    isPlaceholderData,
  } = useQuery({
    queryKey: computed(() => ['assess', settled.value]),
    queryFn: ({ signal }) =>
      ask(
        api.POST('/api/assess', {
          params: { query: settled.value.query },
          body: { ...settled.value.file, name: settled.value.file.name || 'Unnamed' },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 30_000,
  })
  const assessment = useLast(answer) // a question refused takes no answer away
  const asked = computed(() => assessment.value?.questions.length ?? 0)
  /** The readings are of what was written before: dimmed until they follow. */
  const behind = computed(
    () => question.value !== settled.value || isPlaceholderData.value || refused.value !== null,
  )
  return { assessment, refused, asked, behind }
}
