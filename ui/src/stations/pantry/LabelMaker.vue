<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Checkbox, Input, InputNumber, Select } from 'ant-design-vue'
import { computed, reactive, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import HazardScreen from '../../parts/HazardScreen.vue'
import Looking from '../../parts/Looking.vue'
import { fromNow, sentence } from '../../words'
import JarPicture from './JarPicture.vue'

// A label laid out from what the batch made, seen on the jar, printed and kept.
const props = defineProps<{ good: Schemas['PantryLot'] }>()
const client = useQueryClient()
const batch = computed(() => props.good.batch)

const { data: kinds } = useQuery({
  queryKey: ['labels', 'kinds'],
  meta: { what: 'the papers' },
  queryFn: () => ask(api.GET('/api/labels')),
  staleTime: Infinity,
})

const wish = reactive({
  form: 'whole',
  width_mm: 0,
  height_mm: 0,
  languages: ['en'] as string[],
  name: props.good.name,
  use: '',
  card: '',
  net: 0,
  doses: true,
  formula_code: '',
})
const form = computed(() => kinds.value?.forms.find((f) => f.id === wish.form))
watch(form, (f) => {
  wish.width_mm = f?.width_mm ?? 0
  wish.height_mm = f?.height_mm ?? 0
})
const second = computed({
  get: () => wish.languages[1] ?? '',
  set: (code) => (wish.languages = code ? [wish.languages[0] ?? 'en', code] : [wish.languages[0] ?? 'en']),
})
const first = computed({
  get: () => wish.languages[0] ?? 'en',
  set: (code) => (wish.languages = [code, ...wish.languages.slice(1).filter((l) => l !== code)]),
})
const { data: cards } = useQuery({
  queryKey: computed(() => ['cards', '', batch.value]),
  meta: { what: 'the use cards' },
  queryFn: () => ask(api.GET('/api/cards', { params: { query: { batch: batch.value } } })),
})
const cardOptions = computed(() => [
  { value: '', label: 'none' },
  ...(cards.value ?? []).map((c) => ({ value: c.id, label: c.task })),
])
const asked = computed<Schemas['LabelWish']>(() => ({
  ...wish,
  languages: [...wish.languages],
  origin: location.origin,
}))

/** What is asked for once typing rests. */
const settled = ref(asked.value)
let timer: ReturnType<typeof setTimeout> | undefined
watch(
  asked,
  (next) => {
    clearTimeout(timer)
    timer = setTimeout(() => (settled.value = next), 180)
  },
  { deep: true },
)

const {
  data: view,
  error,
  isPending,
  isFetching,
  refetch,
} = useQuery({
  queryKey: computed(() => ['pantry', 'label', batch.value, settled.value]),
  queryFn: () =>
    ask(api.POST('/api/batches/{id}/label', { params: { path: { id: batch.value } }, body: settled.value })),
  placeholderData: keepPreviousData,
  enabled: computed(() => form.value !== undefined),
})
const grave = computed(() => view.value?.misfits.some((m) => m.grave) ?? true)
const picture = computed(() =>
  view.value ? `data:image/svg+xml;charset=utf-8,${encodeURIComponent(view.value.svg)}` : '',
)

const { data: prints } = useQuery({
  queryKey: computed(() => ['pantry', 'prints', batch.value]),
  meta: { what: 'what was printed before' },
  queryFn: () => ask(api.GET('/api/batches/{id}/prints', { params: { path: { id: batch.value } } })),
})
const order = reactive({ sheet: 'a4', place: 1, copies: 1 })
const print = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/batches/{id}/prints', {
        params: { path: { id: batch.value } },
        body: { label: asked.value, sheet: order.sheet, start: order.place - 1, copies: order.copies },
      }),
    ),
  onSuccess: (p) => {
    order.place = (p.next_start ?? 0) + 1
    void client.invalidateQueries({ queryKey: ['pantry'] })
  },
})
const file = (p: Schemas['LabelPrint']) => `/api/prints/${p.id}/file`
/** Printed again on the sheet and from the place that are chosen now. */
const onThisSheet = (p: Schemas['LabelPrint']) => `${file(p)}?sheet=${order.sheet}&place=${order.place}`
const here = computed(() => props.good.jar_list.filter((j) => !j.gone).length)
const options = (list?: { id: string; name: string }[]) =>
  (list ?? []).map((x) => ({ value: x.id, label: x.name }))
const languages = computed(() =>
  (kinds.value?.languages ?? []).map((l) => ({ value: l.code, label: l.name })),
)
</script>

<template>
  <div class="maker">
    <form class="wishes" @submit.prevent="print.mutate()">
      <h2>What stands on it</h2>
      <label>
        <span class="field-label">Label</span>
        <Select v-model:value="wish.form" :options="options(kinds?.forms)" aria-label="Label" />
      </label>
      <div class="pair">
        <label>
          <span class="field-label">Wide, mm</span>
          <InputNumber v-model:value="wish.width_mm" :min="15" :max="400" name="width" />
        </label>
        <label>
          <span class="field-label">High, mm</span>
          <InputNumber v-model:value="wish.height_mm" :min="15" :max="400" name="height" />
        </label>
        <label>
          <span class="field-label">Net, {{ view?.poured ? 'ml' : 'g' }}</span>
          <InputNumber
            :value="wish.net || view?.net"
            :min="0"
            name="net"
            @update:value="wish.net = Number($event ?? 0)"
          />
        </label>
      </div>
      <div class="pair">
        <label>
          <span class="field-label">Language</span>
          <Select v-model:value="first" :options="languages" aria-label="Language" />
        </label>
        <label>
          <span class="field-label">and</span>
          <Select
            v-model:value="second"
            :options="[{ value: '', label: 'no other' }, ...languages.filter((l) => l.value !== first)]"
            aria-label="Second language"
          />
        </label>
      </div>
      <label>
        <span class="field-label">Name</span>
        <Input v-model:value="wish.name" name="label-name" :maxlength="80" />
      </label>
      <label>
        <span class="field-label">How it is used, in your words</span>
        <Input.TextArea v-model:value="wish.use" name="label-use" :rows="2" :maxlength="600" />
      </label>
      <label v-if="!wish.use && cardOptions.length > 1">
        <span class="field-label">or the use card</span>
        <Select v-model:value="wish.card" :options="cardOptions" aria-label="Use card" />
      </label>
      <ul v-if="view?.claims.length" class="claims" role="status">
        <li v-for="c in view.claims" :key="c.field + c.at">
          <strong>“{{ c.word }}”</strong> promises too much. {{ c.why }} Say: {{ c.instead }}.
        </li>
      </ul>
      <label>
        <span class="field-label"
          >Code of the formula (UFI), where the law asks for one<AboutThis of="ufi"
        /></span>
        <Input v-model:value="wish.formula_code" name="formula-code" :maxlength="30" placeholder="none" />
      </label>
      <Checkbox v-model:checked="wish.doses">with the dose your workshop chose</Checkbox>

      <template v-if="canMake">
        <h2>Print</h2>
        <label>
          <span class="field-label">On</span>
          <Select v-model:value="order.sheet" :options="options(kinds?.sheets)" aria-label="Sheet" />
        </label>
        <div class="pair">
          <label v-if="order.sheet !== 'single'">
            <span class="field-label">From place</span>
            <InputNumber v-model:value="order.place" :min="1" :max="500" name="place" />
          </label>
          <label>
            <span class="field-label">Of each jar</span>
            <InputNumber v-model:value="order.copies" :min="1" :max="100" name="copies" />
          </label>
        </div>
        <Button type="primary" html-type="submit" :disabled="grave || !view" :loading="print.isPending.value">
          {{ here ? `Print for ${here} jars` : 'Print' }}
        </Button>
        <p v-if="print.error.value" class="bad" role="alert">{{ sentence(print.error.value) }}</p>
        <p v-if="print.data.value" role="status">
          Kept. <a :href="file(print.data.value)" target="_blank" rel="noopener">Open the PDF</a> and print it
          at its true size, not fitted to the page.
        </p>
      </template>
    </form>

    <div class="seen">
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <template v-if="view">
        <JarPicture
          :picture="picture"
          :width="view.width_mm"
          :height="view.height_mm"
          :round="view.round"
          :form="wish.form"
          :behind="isFetching"
        />
        <p class="soft small">
          {{ view.width_mm }} × {{ view.height_mm }} mm, text {{ view.text_mm.toFixed(1) }} mm.
          {{ view.draft }}
          <a :href="picture" :download="`${good.code}.svg`">Save it as SVG</a>
        </p>
      </template>
    </div>

    <aside class="mind">
      <h2 :class="{ fits: !grave }">{{ grave ? 'It does not fit yet' : 'It fits' }}</h2>
      <ul v-if="view">
        <li v-for="m in view.misfits" :key="m.block + m.says" :class="{ grave: m.grave }">
          <span aria-hidden="true">{{ m.grave ? '■' : '▲' }}</span> {{ m.says }} {{ m.advice }}
        </li>
        <li v-if="view.unknown" class="grave"><span aria-hidden="true">▲</span> {{ view.unknown }}</li>
      </ul>
      <details v-if="view?.hazard">
        <summary>Why these hazards</summary>
        <HazardScreen :hazard="view.hazard" />
      </details>
      <h2>Printed</h2>
      <p v-if="prints?.length === 0" class="soft">Nothing yet. What is printed is kept as it was.</p>
      <ul v-if="prints?.length" class="prints">
        <li v-for="p in prints" :key="p.id">
          <a :href="file(p)" target="_blank" rel="noopener">{{ p.labels }} × {{ p.form_name }}</a>
          <a class="again small" :href="onThisSheet(p)" target="_blank" rel="noopener"
            >on the sheet chosen here</a
          >
          <div class="soft small">
            {{ p.languages.join(' and ') }}, {{ fromNow(p.at) }} by {{ p.by
            }}<template v-if="p.jars?.length">, jars {{ p.jars[0] }} to {{ p.jars.at(-1) }}</template>
          </div>
        </li>
      </ul>
    </aside>
  </div>
</template>

<style scoped>
.maker {
  display: grid;
  gap: 26px;
  grid-template-columns: 300px minmax(260px, 1fr) 250px;
}

.wishes {
  display: flex;
  flex-direction: column;
  gap: 10px;
}

.wishes :deep(.ant-select),
.wishes :deep(.ant-input-number) {
  width: 100%;
}

.pair {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fit, minmax(70px, 1fr));
}

h2 {
  margin: 6px 0 0;
}

.claims {
  border-left: 3px solid var(--ochre);
  list-style: none;
  margin: 0;
  padding: 2px 0 2px 10px;
}

.seen {
  display: flex;
  flex-direction: column;
  gap: 8px;
}

.mind ul {
  list-style: none;
  margin: 6px 0 16px;
  padding: 0;
}

.mind li {
  color: var(--ochre-ink);
  padding: 4px 0;
}

.mind li.grave {
  color: var(--oxblood);
}

.fits {
  color: var(--celadon-ink);
}

summary {
  color: var(--cobalt);
  cursor: pointer;
  min-height: 24px;
}

.again {
  display: block;
  min-height: 24px;
}

.mind .prints li {
  color: inherit;
}

@media (max-width: 1100px) {
  .maker {
    grid-template-columns: 1fr 1fr;
  }
}

@media (max-width: 700px) {
  .maker {
    grid-template-columns: 1fr;
  }
}
</style>
