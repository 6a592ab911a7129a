<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { Button, Dropdown, Menu, MenuItem } from 'ant-design-vue'
import { computed, onMounted, ref, shallowRef } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useMaterials } from '../../api/queries'
import { unsentText } from '../../api/unsent'
import { hatchOf } from '../../parts/hatches'
import SaidAnswers from '../../parts/SaidAnswers.vue'
import SaidField from '../../parts/SaidField.vue'
import { becameWords, offered, type Heard, type SaidWord } from '../../parts/said'
import { useSettled } from '../../parts/useSettled'
import { counted, sentence } from '../../words'
import { noneOf, placeNames, places, type Place, type Said } from './saidGood'

// A formula, or a few lines of one, the way a maker says it. Its words are marked as they
// are typed; what became of each stays to be seen, and can be moved to where it belongs.
const props = defineProps<{ lines: Schemas['FormulaLine'][] }>()
const emit = defineEmits<{ said: [Said]; move: [string, Place]; choose: [number, string]; back: [] }>()

const empty = computed(() => props.lines.length === 0)
const field = ref<InstanceType<typeof SaidField>>()
onMounted(() => empty.value && field.value?.focus())

const text = unsentText('said')
const settled = useSettled(text, 160)
const read = (said: string) => ask(api.POST('/api/said', { body: { text: said, lines: props.lines } }))

const { data: live, error } = useQuery({
  queryKey: computed(() => ['said', settled.value, props.lines]),
  queryFn: () => read(settled.value),
  enabled: computed(() => settled.value.trim().length > 2),
  placeholderData: (before) => before,
  retry: false,
  gcTime: 0,
})
const say = useMutation({
  mutationFn: () => read(text.value),
  onSuccess: (said) => {
    taken.value = { said, text: text.value }
    text.value = dropped.value = ''
    emit('said', said)
  },
})
/** What was taken in last: its words can be moved, and it can be taken back. */
const taken = shallowRef<{ said: Said; text: string }>()

const { data: materials } = useMaterials()
function hatch(said: Said, w: SaidWord): string | undefined {
  if (w.became !== 'material' && w.became !== 'choice') return undefined
  const good = w.good ? said.more?.[w.good - 1]?.formula : said.formula
  const id = w.line === undefined ? undefined : good?.lines[w.line]?.material
  return hatchOf(materials.value?.find((m) => m.id === id)?.functions[0] ?? '')
}
const heard = computed<Heard | undefined>(() => {
  const said = live.value
  if (!said || !text.value.trim()) return undefined
  return { text: said.words.length ? settled.value : '', words: said.words, hatchOf: (w) => hatch(said, w) }
})

/** What is heard, in a few words. */
const summary = computed(() => {
  const said = live.value
  if (!said || settled.value.trim().length < 3 || text.value.trim().length < 3) return ''
  const f = said.formula
  const fresh = f.lines.length - props.lines.length
  const parts = [
    fresh > 0 && counted(fresh, 'line'),
    fresh < 0 && `${counted(-fresh, 'line')} taken away`,
    said.words.some((w) => w.became === 'struck') && 'a correction',
    f.steps?.length && counted(f.steps.length, 'step'),
    f.uses?.amount && `one use ${f.uses.amount}`,
    f.yield?.amount && `gives ${f.yield.amount}`,
    noneOf(said).replace(/\.$/, '').toLowerCase(),
    said.more?.length && `${counted(said.more.length, 'more good')}`,
  ]
  return parts.filter(Boolean).join(', ')
})
/** What is asked of what is being said: of lines that stood before, their own place asks. */
const questions = computed(() =>
  text.value.trim() && live.value && summary.value !== undefined
    ? live.value.questions.filter((q) => q.line === undefined || q.line >= props.lines.length)
    : [],
)
/** A question is answered by saying the name, as long as it is being said. */
function answer(said: string) {
  if (heard.value?.text === text.value) text.value = said
}
/** What is still asked of lines that were taken in and are as they were: nothing else asks it again. */
const left = computed(() => {
  const was = taken.value?.said.formula.lines ?? []
  return (taken.value?.said.questions ?? []).filter(
    (q) =>
      q.line !== undefined && offered(q).length && was[q.line]?.material === props.lines[q.line]?.material,
  )
})
function choose(q: Schemas['Question'], name: string) {
  if (!taken.value || q.line === undefined) return
  emit('choose', q.line, name)
  const { said, text } = taken.value
  taken.value = { text, said: { ...said, questions: said.questions.filter((o) => o !== q) } }
}
const unread = computed(
  () => heard.value?.words.filter((w) => w.became === 'unread').map((w) => w.text) ?? [],
)

/** Words that may stand in the wrong place. */
const movable = (w: SaidWord) =>
  ['left-out', 'unread', 'remark', 'step', 'use', 'question', 'place', 'name'].includes(w.became) &&
  /\p{L}|\p{N}/u.test(w.text)

function move(w: SaidWord, to: Place) {
  emit('move', w.text, to)
  if (taken.value)
    taken.value = {
      ...taken.value,
      said: {
        ...taken.value.said,
        words: taken.value.said.words.map((o) =>
          o === w ? { ...o, became: to === 'line' ? 'material' : to } : o,
        ),
      },
    }
}

/** Esc empties the field, and gives back what was typed. */
const dropped = ref('')
function escape() {
  if (text.value) dropped.value = text.value
  text.value = text.value ? '' : dropped.value
}
/** What was taken in last goes back into the field. */
function takeBack() {
  if (!taken.value) return
  text.value = taken.value.text
  taken.value = undefined
  emit('back')
}

const keepMore = useMutation({
  mutationFn: async () => {
    for (const g of taken.value?.said.more ?? []) await ask(api.POST('/api/formulas', { body: g.formula }))
    return taken.value?.said.more?.length ?? 0
  },
})
</script>

<template>
  <form class="talk" @submit.prevent="say.mutate()">
    <SaidField
      ref="field"
      v-model="text"
      :heard="heard"
      name="say"
      label="Say more lines"
      :rows="empty ? 3 : 1"
      :placeholder="
        empty
          ? 'Say it: two cups of soap flakes and a cup each of washing soda, borax and baking soda, plus 20 drops of lavender'
          : 'and 10 drops lavender oil; no, make that 12'
      "
      @commit="say.mutate()"
      @escape="escape"
    />
    <Button class="add" html-type="submit" :disabled="!text.trim()" :loading="say.isPending.value"
      >Add</Button
    >
    <p v-if="say.isError.value" class="bad" role="alert">{{ sentence(say.error.value) }}</p>
    <p v-else-if="error && text.trim()" class="bad small" role="status">{{ sentence(error) }}</p>
    <div v-else-if="text.trim() && summary" class="small heard" role="status">
      <span class="soft">Heard:</span> {{ summary
      }}<template v-if="unread.length"
        >; <span class="watch-word">not understood: {{ unread.join(' … ') }}</span></template
      >
      <ul v-if="questions.length">
        <li v-for="(q, i) in questions" :key="i">
          {{ `${q.detail} ` }}
          <SaidAnswers :question="q" :heard="heard" @said="answer" />
        </li>
      </ul>
    </div>
    <div v-if="taken && !text" class="taken small">
      <p class="soft">
        What became of it.
        <button class="plain do" type="button" @click="takeBack">Take it back</button>
        <button
          class="plain close"
          type="button"
          aria-label="Close what was heard"
          @click="taken = undefined"
        >
          ×
        </button>
      </p>
      <p class="words">
        <template v-for="(w, i) in taken.said.words" :key="i">
          <Dropdown v-if="movable(w)" :trigger="['click']">
            <button class="plain word" :class="w.became" type="button" :title="becameWords[w.became]">
              {{ w.text }}
            </button>
            <template #overlay>
              <Menu @click="({ key }) => move(w, key as Place)">
                <MenuItem v-for="p in places" :key="p">Make it {{ placeNames[p] }}</MenuItem>
              </Menu>
            </template>
          </Dropdown>
          <span v-else class="word" :class="w.became" :title="becameWords[w.became]">{{ w.text }}</span>
          {{ ' ' }}
        </template>
      </p>
      <p v-for="q in left" :key="q.code + q.line" class="asked">
        {{ `${q.detail} ` }}
        <SaidAnswers :question="q" @chosen="(n) => choose(q, n)" />
      </p>
      <p v-if="taken.said.more?.length">
        <template v-if="keepMore.isSuccess.value"
          >{{ counted(keepMore.data.value ?? 0, 'formula') }} kept beside this one.</template
        >
        <template v-else>
          {{ counted(taken.said.more.length, 'more good') }} said:
          {{ taken.said.more.map((g) => g.formula.name).join(', ') }}.
          <Button size="small" :loading="keepMore.isPending.value" @click="keepMore.mutate()"
            >Keep them as formulas</Button
          >
        </template>
        <span v-if="keepMore.isError.value" class="bad">{{ sentence(keepMore.error.value) }}</span>
      </p>
    </div>
  </form>
</template>

<style scoped>
.talk {
  align-items: start;
  display: grid;
  gap: 6px 8px;
  grid-template-columns: minmax(0, 1fr) auto;
  margin-top: 8px;
}

.add {
  min-height: 42px;
}

p,
.heard,
.taken {
  grid-column: 1 / 3;
  margin: 0;
}

.heard ul {
  color: var(--ochre-ink);
  margin: 2px 0 0;
  padding-left: 18px;
}

.watch-word {
  color: var(--ochre-ink);
}

.taken {
  border-left: 3px solid var(--clay-line);
  padding: 0 0 2px 10px;
}

.taken .words {
  line-height: 1.9;
}

.asked {
  color: var(--ochre-ink);
}

.close {
  float: right;
  font-size: 18px;
  line-height: 1;
  min-height: 24px;
  min-width: 24px;
}

.word {
  border-bottom: 2px solid transparent;
  font: inherit;
  padding: 0 1px;
  text-align: left;
}

.word.amount {
  font-weight: 600;
}

.word.material,
.word.choice {
  border-color: var(--celadon);
}

.word.remark,
.word.place,
.word.step,
.word.use,
.word.yield,
.word.name {
  border-bottom: 2px dotted var(--clay);
}

.word.small-talk {
  color: var(--ink-soft);
}

.word.struck {
  color: var(--ink-soft);
  text-decoration: line-through;
}

.word.not {
  border-bottom: 3px double var(--oxblood);
}

.word.left-out {
  color: var(--ink-soft);
  font-style: italic;
}

.word.unread,
.word.question {
  background: var(--ochre-wash);
  border-color: var(--ochre);
}
</style>
