<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { asJpeg, base64Of } from '../../parts/photo'
import { sentence } from '../../words'
import SwatchPicture from './SwatchPicture.vue'
import SwatchSlider from './SwatchSlider.vue'

// Photos of what goes by a code, before and after: what is left of the stain is measured on them,
// and may be the mark.
const props = defineProps<{
  trial: string
  pair: number
  code: string
  swatch?: Schemas['CodeSwatch']
  given?: number
  /** Its pair is put in order: what the photos say is no mark then. */
  ranked?: boolean
}>()
const emit = defineEmits<{ mark: [number] }>()
const client = useQueryClient()
const names = { before: 'Before', after: 'After' } as const
const wrong = ref('')
const old = () => void client.invalidateQueries({ queryKey: ['trials'] })
const keep = useMutation({
  async mutationFn({ side, file }: { side: 'before' | 'after'; file: Blob }) {
    const url = await asJpeg(file)
    return ask(
      api.POST('/api/trials/{id}/swatches', {
        params: { path: { id: props.trial } },
        body: { pair: props.pair, code: props.code, side, jpeg: base64Of(url) },
      }),
    )
  },
  onSuccess: old,
  onError: (e) => (wrong.value = e instanceof Error && !('problem' in e) ? e.message : sentence(e)),
})
const choose = useMutation({
  mutationFn: (v: { id: string; cloth: number; stain: number }) =>
    ask(
      api.PATCH('/api/swatches/{id}', {
        params: { path: { id: v.id } },
        body: { cloth: v.cloth, stain: v.stain },
      }),
    ),
  onSuccess: old,
})
function pick(side: 'before' | 'after', e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  wrong.value = ''
  if (file) keep.mutate({ side, file })
}
const sides = computed(() =>
  (['before', 'after'] as const).flatMap((side) => {
    const kept = props.swatch?.[side]
    return kept ? [{ side, kept }] : []
  }),
)
const mark = computed(() => props.swatch?.mark)
</script>

<template>
  <details class="code-photos">
    <summary>
      Photos<template v-if="sides.length">: {{ sides.map((s) => s.side).join(' and ') }}</template
      ><template v-if="mark !== undefined">, {{ mark }} by them</template>
    </summary>
    <p class="soft small">
      With a white and a grey patch beside the cloth, in even light. What is kept is the picture alone,
      without where and with what it was taken.
    </p>
    <div class="picks">
      <label v-for="(name, side) in names" :key="side" class="pick">
        {{ swatch?.[side] ? `${name}: another` : `${name} the wash` }}
        <input type="file" accept="image/*" :name="`swatch-${code}-${side}`" @change="pick(side, $event)" />
      </label>
    </div>
    <p v-if="keep.isPending.value" role="status">Looking at it …</p>
    <p v-if="wrong || choose.error.value" class="bad" role="alert">
      {{ wrong || sentence(choose.error.value) }}
    </p>
    <SwatchSlider v-if="swatch?.before && swatch.after" :swatch="swatch" />
    <p v-if="swatch?.left" aria-live="polite">{{ swatch.left.says }}</p>
    <p v-for="s in sides.filter((x) => !x.kept.found.sure)" :key="s.side" class="watch">
      ▲ {{ names[s.side] }}: {{ s.kept.found.says }}
    </p>
    <p v-if="!ranked && mark !== undefined && mark !== given">
      <Button @click="emit('mark', mark)">Mark {{ code }} {{ mark }}, by the photos</Button>
    </p>
    <details v-if="sides.length">
      <summary>What was found on them</summary>
      <SwatchPicture
        v-for="s in sides"
        :key="s.kept.id"
        :url="`/api/swatches/${s.kept.id}`"
        :found="s.kept.found"
        :cloth="s.side === 'before' ? s.kept.cloth : -1"
        :stain="s.kept.stain"
        @cloth="choose.mutate({ id: s.kept.id, cloth: $event, stain: s.kept.stain })"
        @stain="choose.mutate({ id: s.kept.id, cloth: s.kept.cloth, stain: $event })"
      />
    </details>
  </details>
</template>

<style scoped>
.code-photos {
  border-top: 1px solid var(--clay-line);
  margin-top: 10px;
}

summary {
  color: var(--cobalt);
  cursor: pointer;
  min-height: 44px;
  padding-top: 11px;
}

.picks {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}

.pick {
  border: 1px solid var(--cobalt);
  border-radius: var(--corner);
  color: var(--cobalt);
  cursor: pointer;
  min-height: 44px;
  padding: 11px 14px;
}

.picks input {
  height: 1px;
  opacity: 0;
  position: absolute;
  width: 1px;
}

.pick:focus-within {
  outline: 2px solid var(--cobalt);
  outline-offset: 2px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
