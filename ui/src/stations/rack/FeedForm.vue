<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, reactive, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import { grams } from '../../words'

defineProps<{ busy: boolean }>()
const emit = defineEmits<{ feed: [Schemas['VesselAct']] }>()

type Amount = number | undefined
type Part = 'sugar' | 'peel'
/** What cost nothing: it was given, or grew here. */
const given = 'given'

const ml = ref<Amount>()
const text = ref('')
const parts = reactive<Record<Part, { grams: Amount; from: string }>>({
  sugar: { grams: undefined, from: '' },
  peel: { grams: undefined, from: '' },
})

const { data: materials } = useMaterials()
const { data: lots } = useQuery({
  queryKey: ['lots', 'to feed'],
  meta: { what: 'the lots' },
  queryFn: () => ask(api.GET('/api/lots', { params: { query: { limit: 200 } } })),
})
const isPast = (l: Schemas['Lot']) => !!l.best_before && l.best_before < dayjs().format('YYYY-MM-DD')
/** The lots that each part may come from, the one to open first in front, those past their date last. */
const choices = computed(() => {
  const does = new Map(materials.value?.map((m) => [m.id, m.functions]))
  const opened = (l: Schemas['Lot']) => `${isPast(l) ? 1 : 0}${l.best_before ?? '9999'}`
  const good = (lots.value?.lots ?? [])
    .filter((l) => l.remaining_g > 0 && !l.set_aside)
    .sort((a, b) => opened(a).localeCompare(opened(b)))
  const of = (role: string) => good.filter((l) => does.get(l.material)?.includes(role))
  return { sugar: of('sugar'), peel: of('botanical') }
})
const words = { sugar: 'sugar', peel: 'peel, fruit' }

/** What a part may come from, as it is chosen. */
const bags = (part: Part) => [
  ...choices.value[part].map((l) => ({
    value: l.id,
    label: `${l.name} ${l.code}, ${grams(l.remaining_g)}${isPast(l) ? ', past' : ''}`,
  })),
  { value: choices.value[part].length ? given : '', label: 'given, cost nothing' },
]

// the first lot is what one reaches for; without any it was given
watch(
  choices,
  (c) => {
    for (const part of ['sugar', 'peel'] as const) parts[part].from ||= c[part][0]?.id ?? ''
  },
  { immediate: true },
)

function send() {
  const act: Schemas['VesselAct'] = { kind: 'fed', ml: ml.value, text: text.value || undefined }
  for (const part of ['sugar', 'peel'] as const) {
    const { grams: much, from } = parts[part]
    if (!much) continue
    act[`${part}_g`] = much
    if (from && from !== given) (act.from ??= []).push({ lot: from, grams: much, as: part })
    else act.given = true
  }
  emit('feed', act)
}

/** Empties it, once what it said has gone in. */
function clear() {
  ml.value = parts.sugar.grams = parts.peel.grams = undefined
  text.value = ''
}
defineExpose({ clear })
</script>

<template>
  <form class="feed" @submit.prevent="send">
    <h3>Feed</h3>
    <label>
      <span class="field-label">liquid</span>
      <InputNumber v-model:value="ml" :min="0" addon-after="ml" name="feed-ml" />
    </label>
    <span class="soft small tap">water from the tap</span>
    <template v-for="part in ['sugar', 'peel'] as const" :key="part">
      <label>
        <span class="field-label">{{ words[part] }}</span>
        <InputNumber v-model:value="parts[part].grams" :min="0" addon-after="g" :name="`feed-${part}`" />
      </label>
      <Choice v-model="parts[part].from" :label="`${words[part]} from`" :options="bags(part)" />
    </template>
    <label>
      <span class="field-label">what</span>
      <Input v-model:value="text" name="feed-text" placeholder="orange peel" />
    </label>
    <Button html-type="submit" :loading="busy">Goes in</Button>
  </form>
</template>

<style scoped>
.feed {
  align-items: end;
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 1fr;
}

h3 {
  grid-column: 1 / -1;
  margin: 18px 0 4px;
}

.tap {
  align-self: end;
  padding-bottom: 9px;
}
</style>
