<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useGood } from '../../api/queries'
import { sentence } from '../../words'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import UseCard from '../../parts/UseCard.vue'
import CardForm from './CardForm.vue'

// Which of mine for this, how strong, how long, and on what never.
const props = defineProps<{ batch?: string }>()
const client = useQueryClient()
const { data: good } = useGood(() => props.batch ?? '')
const typed = ref('')
const asked = ref('')
let timer: ReturnType<typeof setTimeout> | undefined
function look() {
  clearTimeout(timer)
  timer = setTimeout(() => (asked.value = typed.value.trim()), 200)
}
const { data, error, isPending, refetch } = useQuery({
  queryKey: computed(() => ['cards', asked.value, props.batch ?? '']),
  queryFn: () =>
    ask(
      api.GET('/api/cards', {
        params: { query: { ask: asked.value || undefined, batch: props.batch || undefined } },
      }),
    ),
  placeholderData: keepPreviousData,
})
const most = ref(24)
const shown = computed(() => (data.value ?? []).slice(0, most.value))
const editing = ref<Schemas['UseCard'] | 'new'>()

const comesRound = useMutation({
  mutationFn: (c: Schemas['UseCard']) =>
    ask(api.POST('/api/chores', { body: { title: c.task, every_days: c.every_days ?? 30, card: c.id } })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['rack'] }),
})
const gone = ref<Schemas['UseCard']>()
const again = () => void client.invalidateQueries({ queryKey: ['cards'] })
const remove = useMutation({
  mutationFn: (c: Schemas['UseCard']) =>
    ask(api.DELETE('/api/cards/{id}', { params: { path: { id: c.id } } })),
  onSuccess: (_, c) => {
    gone.value = c
    again()
  },
})
/** The card as it was, written once more. */
const bringBack = useMutation({
  mutationFn: (c: Schemas['UseCard']) => {
    const { formula = '', task, surfaces, strength, how, rinse, not_on } = c
    const rest = { leave_minutes: c.leave_minutes ?? 0, order: c.order ?? '', every_days: c.every_days ?? 0 }
    return ask(
      api.POST('/api/cards', { body: { formula, task, surfaces, strength, how, rinse, not_on, ...rest } }),
    )
  },
  onSuccess: () => {
    gone.value = undefined
    again()
  },
})
function print() {
  window.print()
}
function kept() {
  editing.value = undefined
  void client.invalidateQueries({ queryKey: ['cards'] })
}
</script>

<template>
  <div class="finder">
    <form class="asks no-print" @submit.prevent="asked = typed.trim()">
      <label>
        <span class="field-label">What is to be done, on what?</span>
        <Input
          v-model:value="typed"
          name="ask-card"
          placeholder="burnt pan, aluminium"
          allow-clear
          @input="look()"
        />
      </label>
      <Button v-if="canMake" @click="editing = 'new'">A card of your own</Button>
      <Button @click="print()">Print these</Button>
    </form>
    <p class="small no-print">
      It did not do what the card says?
      <RouterLink :to="{ path: '/trials/why', query: good ? { formula: good.formula } : {} }"
        >Ask why</RouterLink
      >
    </p>
    <CardForm
      v-if="editing"
      :key="editing === 'new' ? 'new' : editing.id"
      class="no-print"
      :card="editing === 'new' ? undefined : editing"
      :batch="batch"
      @kept="kept()"
      @leave="editing = undefined"
    />
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="data?.length === 0" class="empty">
      {{ asked ? `No card speaks of “${asked}”.` : 'No card goes with it yet.' }}
      {{ canMake ? 'Write one of your own.' : '' }}
    </p>
    <p v-if="comesRound.data.value" role="status" class="no-print">
      “{{ comesRound.data.value.title }}” comes round every {{ comesRound.data.value.every_days }} days: it
      stands on the <RouterLink to="/rack">Rack</RouterLink>.
    </p>
    <p v-if="gone" role="status" class="no-print">
      “{{ gone.task }}” is put away.
      <button type="button" class="plain do" @click="bringBack.mutate(gone)">Bring back</button>
    </p>
    <p v-if="comesRound.error.value ?? remove.error.value ?? bringBack.error.value" class="bad" role="alert">
      {{ sentence(comesRound.error.value ?? remove.error.value ?? bringBack.error.value) }}
    </p>
    <div class="cards">
      <UseCard v-for="c in shown" :key="c.id" :card="c" :level="2">
        <p v-if="canMake && (c.every_days || c.own)" class="acts no-print small">
          <button v-if="c.every_days" type="button" class="plain do" @click="comesRound.mutate(c)">
            put into what is due
          </button>
          <button v-if="c.own" type="button" class="plain do" @click="editing = c">change</button>
          <button v-if="c.own" type="button" class="plain do" @click="remove.mutate(c)">put away</button>
        </p>
      </UseCard>
    </div>
    <button
      v-if="(data?.length ?? 0) > most"
      type="button"
      class="plain do more no-print"
      @click="most += 24"
    >
      {{ (data?.length ?? 0) - most }} more
    </button>
  </div>
</template>

<style scoped>
.asks {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 14px;
}

.asks label {
  flex: 1 1 260px;
  max-width: 460px;
}

.cards {
  display: grid;
  gap: 14px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
}

.acts {
  display: flex;
  gap: 14px;
}

.do {
  color: var(--cobalt);
  min-height: 24px;
  text-decoration: underline;
}

.more {
  margin-top: 12px;
}

@media print {
  .cards {
    display: block;
    columns: 2;
  }

  .cards > * {
    margin-bottom: 10px;
  }
}
</style>
