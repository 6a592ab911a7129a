<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, ask } from '../../api/client'
import { canMake } from '../../api/session'
import { byScoop } from '../../parts/byScoop'
import Looking from '../../parts/Looking.vue'
import { sentence } from '../../words'
import StartCupboard from './StartCupboard.vue'
import StartSize from './StartSize.vue'
import StartWays from './StartWays.vue'
import { stages, useStart } from './useStart'

// From nothing to a batch on the bench, on a phone: what to make, which way, what of it is
// there, how much. Nothing is written before the last press.
const router = useRouter()
const client = useQueryClient()
const {
  data: starters,
  isPending,
  error,
  refetch,
} = useQuery({
  queryKey: ['starters'],
  queryFn: () => ask(api.GET('/api/starters')),
  staleTime: 60_000,
})
const start = useStart(() => starters.value)
const { chosen, kinds, ways, starter, missing } = start

const heading = ref<HTMLElement>()
watch(
  () => chosen.stage,
  async () => {
    await nextTick()
    heading.value?.focus()
  },
)
const titles = computed(() => [
  'What do you want to make?',
  `${starter.value?.kind_name ?? ways.value[0]?.kind_name ?? 'Which'}: which way?`,
  'What of it is there?',
  'How much?',
])
/** A stage that can be gone to: what it hangs on has been chosen. */
const open = (stage: number) =>
  stage === 0 || (stage === 1 && chosen.kind !== '') || starter.value !== undefined

function pick(kind: string) {
  chosen.kind = kind
  chosen.stage = 1
}

const { data: written } = useQuery({
  queryKey: computed(() => ['start', 'note', start.note.value]),
  meta: { what: 'what you have' },
  queryFn: () => ask(api.POST('/api/deliveries/said', { body: { text: start.note.value } })),
  enabled: computed(() => start.note.value !== ''),
})

/** Takes the formula, notes what is there, and puts the batch on the bench; each once. */
const begin = useMutation({
  mutationFn: async () => {
    const id = chosen.starter
    if (!chosen.formula) {
      const by = byScoop.value ? 'scoop' : 'weight'
      const taken = await ask(
        api.POST('/api/starters/{starter}/taken', { params: { path: { starter: id } }, body: { by } }),
      )
      chosen.formula = taken.id
    }
    const lines = start.unnoted.value
    if (lines.length) {
      await ask(api.POST('/api/deliveries/taken', { body: { text: lines.join('; ') } }))
      chosen.noted.push(...lines)
    }
    return ask(
      api.POST('/api/batches', { body: { formula: chosen.formula, target: { factor: chosen.times } } }),
    )
  },
  onSuccess: (batch) => {
    for (const key of ['formulas', 'shelf', 'lots', 'batches', 'starters'])
      void client.invalidateQueries({ queryKey: [key] })
    start.forget()
    void router.push(`/bench/${batch.id}`)
  },
})
const takeOnly = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/starters/{starter}/taken', {
        params: { path: { starter: chosen.starter } },
        body: { by: byScoop.value ? 'scoop' : 'weight' },
      }),
    ),
  onSuccess: (f) => {
    void client.invalidateQueries({ queryKey: ['formulas'] })
    start.forget()
    void router.push(`/crock/${f.id}`)
  },
})
</script>

<template>
  <div class="start">
    <nav aria-label="The way to a batch">
      <ol>
        <li v-for="(name, i) in stages" :key="name">
          <button
            type="button"
            :aria-current="chosen.stage === i ? 'step' : undefined"
            :disabled="!open(i)"
            @click="chosen.stage = i"
          >
            <span class="num">{{ i + 1 }}</span> {{ name }}
          </button>
        </li>
      </ol>
    </nav>
    <h1 ref="heading" tabindex="-1">{{ titles[chosen.stage] }}</h1>
    <Looking :pending="isPending" :error="error" @again="refetch()" />

    <ul v-if="chosen.stage === 0" class="kinds">
      <li v-for="k in kinds" :key="k.kind">
        <button type="button" class="choice" :class="{ on: k.kind === chosen.kind }" @click="pick(k.kind)">
          <strong>{{ k.name }}</strong>
          <span class="soft small">{{ k.ways }} ways</span>
        </button>
      </li>
    </ul>
    <StartWays v-else-if="chosen.stage === 1" :ways="ways" :chosen="chosen.starter" @choose="start.choose" />
    <template v-else-if="starter">
      <StartCupboard v-if="chosen.stage === 2" :start="start" :starter="starter" />
      <StartSize v-else :start="start" :starter="starter" :read="written" />
      <p v-if="begin.error.value" class="bad" role="alert">{{ sentence(begin.error.value) }}</p>
      <p v-if="takeOnly.error.value" class="bad" role="alert">{{ sentence(takeOnly.error.value) }}</p>
      <footer>
        <Button
          v-if="chosen.stage === 2"
          type="primary"
          size="large"
          :disabled="missing.length > 0"
          @click="chosen.stage = 3"
        >
          How much
        </Button>
        <Button
          v-else-if="canMake"
          type="primary"
          size="large"
          :disabled="missing.length > 0"
          :loading="begin.isPending.value"
          @click="begin.mutate()"
        >
          To the bench
        </Button>
        <Button v-if="canMake" size="large" :loading="takeOnly.isPending.value" @click="takeOnly.mutate()">
          Only keep the formula
        </Button>
      </footer>
    </template>
  </div>
</template>

<style scoped>
.start {
  margin: 0 auto;
  max-width: 760px;
  padding: 18px 20px 60px;
}

nav ol {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  list-style: none;
  margin: 0 0 16px;
  padding: 0;
}

nav button {
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  color: var(--cobalt);
  cursor: pointer;
  font: inherit;
  min-height: 44px;
  padding: 4px 2px;
}

nav button[aria-current] {
  border-color: var(--cobalt);
  color: var(--ink);
  font-weight: 600;
}

nav button:disabled {
  color: var(--ink-soft);
  cursor: default;
}

h1 {
  margin-bottom: 16px;
}

h1:focus {
  outline: 0;
}

.kinds {
  display: grid;
  gap: 8px;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  list-style: none;
  margin: 0;
  padding: 0;
}

.choice {
  align-items: flex-start;
  background: var(--slip-raised);
  border: 1px solid var(--clay-line);
  border-left: 4px solid var(--clay);
  border-radius: var(--corner);
  color: inherit;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  font: inherit;
  min-height: 58px;
  padding: 9px 12px;
  text-align: left;
  width: 100%;
}

.choice strong {
  font-family: var(--slab);
  font-size: 17px;
}

.choice:hover,
.choice.on {
  border-color: var(--cobalt);
}

footer {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 22px;
}

footer :deep(button) {
  min-height: 52px;
}
</style>
