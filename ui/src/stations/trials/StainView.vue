<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, reactive, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { asJpeg, base64Of } from '../../parts/photo'
import { sentence } from '../../words'
import SwatchPicture from './SwatchPicture.vue'

// A stain before and after, on photos with a white and a grey patch: the light is balanced by
// them, and what is left of the stain is measured. The photos stay in this browser.
interface Side {
  url: string
  found?: Schemas['SwatchFound']
  /** The area that is chosen for each, by its number. */
  cloth: number
  stain: number
}
const sides = reactive<{ before?: Side; after?: Side }>({})
const wrong = ref('')
const read = useMutation({
  async mutationFn({ side, file }: { side: 'before' | 'after'; file: Blob }) {
    const url = await asJpeg(file)
    const found = await ask(api.POST('/api/swatch', { body: { jpeg: base64Of(url) } }))
    // a stain that is gone is of the colour of the cloth
    const { cloth, stain } = found
    sides[side] = { url, found, cloth, stain: side === 'after' && stain < 0 ? cloth : stain }
  },
  onError: (e) => (wrong.value = e instanceof Error && !('problem' in e) ? e.message : sentence(e)),
})
function pick(side: 'before' | 'after', e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  wrong.value = ''
  if (file) read.mutate({ side, file })
}
const lab = (side: Side | undefined, at: number) => side?.found?.areas[at]?.lab
const asked = computed(() => {
  const clean = lab(sides.before, sides.before?.cloth ?? -1)
  const stained = lab(sides.before, sides.before?.stain ?? -1)
  const washed = lab(sides.after, sides.after?.stain ?? -1)
  return clean && stained && washed ? { clean, stained, washed } : undefined
})
const { data: left } = useQuery({
  queryKey: computed(() => ['trials', 'stain', asked.value]),
  queryFn: () => ask(api.POST('/api/stain', { body: asked.value as Schemas['StainAsked'] })),
  enabled: computed(() => !!asked.value),
})
const names = { before: 'Before', after: 'After' } as const
const unsure = computed(() =>
  (['before', 'after'] as const).flatMap((s) => {
    const f = sides[s]?.found
    return f && !f.sure ? [`${names[s]}: ${f.says}`] : []
  }),
)
/** A pair drawn by the program, to see how it goes; it says so. */
async function draw() {
  for (const side of ['before', 'after'] as const) {
    const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 480 })
    const on = canvas.getContext('2d')
    if (!on) return
    const fill = (c: string, x: number, y: number, w: number, h: number) => {
      on.fillStyle = c
      on.fillRect(x, y, w, h)
    }
    fill('#5b4438', 0, 0, 640, 480)
    fill('#f4f4f4', 30, 60, 110, 110)
    fill('#777777', 30, 270, 110, 110)
    fill('#e4dfd0', 190, 40, 420, 400)
    on.fillStyle = side === 'before' ? '#a5713f' : '#d6c7a6'
    on.beginPath()
    on.arc(400, 240, 90, 0, 7)
    on.fill()
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
    if (blob) await read.mutateAsync({ side, file: blob })
  }
}
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <p class="lead">
        Lay a white and a grey patch beside the cloth, flat, in even light, and take a photo before and after
        the wash. The light of both is balanced by the patches, so that only the stain differs. The photos are
        measured and not kept.
      </p>
      <div class="sides">
        <section v-for="side in ['before', 'after'] as const" :key="side">
          <h2>{{ names[side] }}</h2>
          <label v-if="canMake" class="pick no-print">
            Choose a photo
            <input type="file" accept="image/*" :name="`photo-${side}`" @change="pick(side, $event)" />
          </label>
          <SwatchPicture
            v-if="sides[side]?.found"
            :url="sides[side].url"
            :found="sides[side].found"
            :cloth="side === 'before' ? sides[side].cloth : -1"
            :stain="sides[side].stain"
            @cloth="sides[side] && (sides[side].cloth = $event)"
            @stain="sides[side] && (sides[side].stain = $event)"
          />
        </section>
      </div>
      <p v-if="read.isPending.value" role="status">Looking at it …</p>
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      <p v-for="u in unsure" :key="u" class="watch" role="status">▲ {{ u }}</p>
      <section v-if="left" class="answer" aria-live="polite">
        <p class="says">{{ left.says }}</p>
        <p class="soft small">
          Washed against clean: ΔE*ab {{ left.de76.toFixed(1) }}, ΔE00 {{ left.de2000.toFixed(1) }}.
          <template v-if="unsure.length">The photos are not sure: take it as a guess.</template>
        </p>
      </section>
      <p v-if="canMake && !sides.before" class="no-print">
        <Button @click="draw">Try it with a pair drawn by the program</Button>
      </p>
    </section>
  </div>
</template>

<style scoped>
.lead {
  max-width: 64ch;
}

.sides {
  display: grid;
  gap: 20px;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
}

.answer {
  border-left: 4px solid var(--cobalt);
  margin: 14px 0;
  padding: 2px 16px;
}

.says {
  font-size: 18px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
