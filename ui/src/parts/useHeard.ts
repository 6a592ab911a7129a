import { computed, type Ref } from 'vue'

import type { Heard } from './said'

/** The least that is worth listening to. */
const LEAST = 3

/** What was heard of a text that is said, as far as it is still worth showing. */
export function useHeard<H extends Pick<Heard, 'words'>>(
  said: Ref<string>,
  settled: Ref<string>,
  read: Ref<H | undefined>,
) {
  const shown = computed(() => (said.value.trim().length > LEAST ? read.value : undefined))
  const heard = computed(() => shown.value && { text: settled.value, words: shown.value.words })
  const lost = computed(() =>
    (shown.value?.words ?? []).filter((w) => w.became === 'unread').map((w) => w.text),
  )
  const still = computed(() => settled.value === said.value)
  return { shown, heard, lost, still }
}

/** Whether a text that has settled is worth asking about. */
export const worthHearing = (settled: Ref<string>) => computed(() => settled.value.trim().length > LEAST)
