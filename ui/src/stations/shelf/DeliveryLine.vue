<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import { currency } from '../../api/session'
import { unsentText } from '../../api/unsent'
import { hatchOf } from '../../parts/hatches'
import SaidAnswers from '../../parts/SaidAnswers.vue'
import SaidField from '../../parts/SaidField.vue'
import type { Heard } from '../../parts/said'
import { useSettled } from '../../parts/useSettled'
import { counted, day, grams, money, sentence } from '../../words'

// What came, one lot or many, the way it is noted or said. Each lot is shown as it was
// understood before any is taken in.
const client = useQueryClient()
const route = useRoute()
const note = unsentText('delivery')
const settled = useSettled(note, 180)
const field = ref<{ focus(): void }>()
const taken = ref('')
const before = ref('') // what was taken in last, to be given back

defineExpose({ focus: () => field.value?.focus() })
onMounted(() => {
  if (!('delivery' in route.query)) return
  note.value = String(route.query.delivery ?? '') // what was short elsewhere, to be put right
  field.value?.focus()
})

const { data: read, error } = useQuery({
  queryKey: computed(() => ['delivery', settled.value]),
  queryFn: () => ask(api.POST('/api/deliveries/said', { body: { text: settled.value } })),
  enabled: computed(() => settled.value.trim().length > 3),
  placeholderData: (last) => last,
  retry: false,
})
const { data: materials } = useMaterials()
const shown = computed(() => (note.value.trim().length > 3 ? read.value : undefined))
const heard = computed<Heard | undefined>(() => {
  const said = shown.value
  if (!said) return undefined
  return {
    text: settled.value,
    words: said.words,
    hatchOf: (w) => {
      const lot = w.became === 'material' && w.line !== undefined ? said.lots[w.line] : undefined
      return lot && hatchOf(materials.value?.find((m) => m.id === lot.material)?.functions[0] ?? '')
    },
  }
})
const asked = (lot: number) => shown.value?.questions.filter((q) => q.line === lot) ?? []
const askedOfAll = computed(() => shown.value?.questions.filter((q) => q.line === undefined) ?? [])
const lost = computed(() =>
  (shown.value?.words ?? [])
    .filter((w) => w.became === 'unread' || w.became === 'left-out')
    .map((w) => w.text),
)

const take = useMutation({
  mutationFn: () => ask(api.POST('/api/deliveries/taken', { body: { text: note.value } })),
  onSuccess: ({ lots, packaging }) => {
    const one = lots[0]
    taken.value =
      lots.length === 1 && one && !packaging.length
        ? `Taken in: ${grams(one.original_g)} ${one.name}, lot ${one.code}.`
        : `Taken in: ${[...lots.map((l) => `${grams(l.original_g)} ${l.name}`), ...packaging.map((p) => p.name)].join(', ')}.`
    before.value = note.value
    note.value = ''
    void client.invalidateQueries({ queryKey: ['shelf'] })
    void client.invalidateQueries({ queryKey: ['lots'] })
  },
})

/** A question is answered by saying the name. */
function answer(said: string) {
  if (heard.value?.text === note.value) note.value = said
}

/** Esc empties the field, and gives back what was there. */
function escape() {
  if (note.value) {
    before.value = note.value
    note.value = ''
  } else note.value = before.value
}
function typed(text: string) {
  note.value = text
  taken.value = ''
  take.reset()
}

/** Packs of one amount: 3 × 1 kg = 3 kg. */
const packs = (l: Schemas['SaidLot']) => (l.packs > 1 && l.amount ? `${l.packs} × ${l.amount} = ` : '')
</script>

<template>
  <form class="delivery" @submit.prevent="take.mutate()">
    <label class="field">
      <span class="field-label">What came, as you would say it; several at once too</span>
      <SaidField
        ref="field"
        :model-value="note"
        :heard="heard"
        name="delivery"
        label="What came, as you would say it"
        placeholder="5 kg washing soda 11.40 from Quayside, lot 22B, best 2028-06; 24 jars 1 l, 21.60"
        @update:model-value="typed"
        @commit="take.mutate()"
        @escape="escape"
      />
    </label>
    <Button
      html-type="submit"
      size="large"
      type="primary"
      :disabled="!note.trim()"
      :loading="take.isPending.value"
    >
      {{ (shown?.lots.length ?? 0) > 1 ? `Take in all ${shown?.lots.length}` : 'Take in' }}
    </Button>
    <div class="heard" aria-live="polite">
      <span v-if="take.isError.value" class="bad" role="alert">{{ sentence(take.error.value) }}</span>
      <span v-else-if="taken" class="good-word">{{ taken }}</span>
      <span v-else-if="note.trim().length > 3 && error" class="bad">{{ sentence(error) }}</span>
      <template v-else-if="shown">
        <ul v-if="shown.lots.length" class="lots">
          <li v-for="(l, i) in shown.lots" :key="i">
            <strong>{{ l.name || 'something' }}</strong><template v-if="l.packaging"
              >, {{ counted(l.pieces ?? 0, 'piece') }}</template
            ><template v-else-if="l.mass_g"
              >, {{ packs(l) }}<span class="num">{{ grams(l.mass_g) }}</span></template
            ><template v-if="l.price"
              >, {{ money(l.price, l.currency)
              }}<template v-if="l.price_per_kg"> ({{ money(l.price_per_kg, l.currency) }} a kg)</template
              ><span v-if="l.currency !== currency" class="watch-word"> in {{ l.currency }}</span></template
            ><template v-else>, <span class="watch-word">no price</span></template
            ><template v-if="l.supplier">, from {{ l.supplier }}</template
            ><template v-if="l.lot_code">, lot {{ l.lot_code }}</template
            ><template v-if="l.best_before">, best before {{ day(l.best_before) }}</template
            ><template v-if="l.received">, came {{ day(l.received) }}</template>
            <span v-for="(q, k) in asked(i)" :key="k" class="bad"
              >{{ ` ${q.detail}` }}<SaidAnswers :question="q" :heard="heard" :good="i" @said="answer"
            /></span>
          </li>
        </ul>
        <p v-for="(q, k) in askedOfAll" :key="k" class="bad">{{ q.detail }}</p>
        <p v-if="lost.length" class="watch-word">Left out: {{ lost.join(' … ') }}</p>
      </template>
    </div>
  </form>
</template>

<style scoped>
.delivery {
  align-items: end;
  display: grid;
  gap: 4px 10px;
  grid-template-columns: minmax(0, 1fr) auto;
  margin-top: 12px;
  max-width: 900px;
}

.heard {
  font-size: 14px;
  grid-column: 1 / 3;
  min-height: 21px;
}

.heard p {
  margin: 0;
}

.lots {
  list-style: none;
  margin: 0;
  padding: 0;
}

.lots li + li {
  border-top: 1px solid var(--clay-line);
  margin-top: 3px;
  padding-top: 3px;
}

.good-word {
  color: var(--celadon-ink);
}

.watch-word {
  color: var(--ochre-ink);
}
</style>
