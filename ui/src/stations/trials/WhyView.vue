<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { useFormulas } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { useSettled } from '../../parts/useSettled'
import { sentence } from '../../words'

// Why did it go wrong? What is seen, said or picked; the likely causes with this good's own
// figures; and the cheapest thing that would tell.
const route = useRoute()
const { data: formulas } = useFormulas()
const { data: all } = useQuery({
  queryKey: ['trials', 'seen'],
  queryFn: () => ask(api.GET('/api/why')),
  staleTime: Infinity,
})
const formula = ref(typeof route.query.formula === 'string' ? route.query.formula : '')
const seen = ref(typeof route.query.seen === 'string' ? route.query.seen : '')
const said = ref(typeof route.query.said === 'string' ? route.query.said : '')
const dose = ref('')
const answers = ref<Schemas['WhyAnswer'][]>([])
const tests = ref<Record<string, Schemas['WhyTest']>>({})
const { data: file } = useQuery({
  queryKey: computed(() => ['formulas', formula.value]),
  queryFn: () => ask(api.GET('/api/formulas/{id}', { params: { path: { id: formula.value } } })),
  enabled: computed(() => !!formula.value),
})
const body = computed<Schemas['WhyAsked']>(() => ({
  seen: seen.value || said.value,
  ...(formula.value && file.value ? { file: file.value.file } : {}),
  ...(dose.value ? { dose: dose.value } : {}),
  answers: answers.value,
}))
const settled = useSettled(body, 200, true)
const { data, error, isFetching } = useQuery({
  queryKey: computed(() => ['trials', 'why', settled.value]),
  queryFn: () => ask(api.POST('/api/why', { body: settled.value })),
  enabled: computed(() => settled.value.seen.trim().length > 2),
  placeholderData: (last) => last,
  retry: false,
})
const found = computed(() => (body.value.seen.trim().length > 2 && !error.value ? data.value : undefined))
watch(
  () => found.value?.ask,
  (t) => {
    if (t) tests.value[t.test] = t
  },
)
watch([seen, said, formula], () => (answers.value = []))
function answer(t: Schemas['WhyTest'], shown: string) {
  answers.value = [...answers.value, { test: t.test, shown }]
}
const takeBack = (test: string) => (answers.value = answers.value.filter((a) => a.test !== test))
const percent = (odds: number) => (odds < 0.01 ? 'under 1 %' : `${Math.round(odds * 100)} %`)
const MOST = 5
const likely = computed(() => (found.value?.causes ?? []).filter((c) => c.odds >= 0.02).slice(0, MOST))
const kinds: Record<string, string> = {
  dose: 'Dose',
  formula: 'Formula',
  step: 'How it is made or used',
  storage: 'Keeping',
  machine: 'Machine',
}
const heads: Record<string, string> = {
  dishes: 'Dishes',
  laundry: 'Laundry',
  soap: 'Soap',
  pressed: 'Tabs and bombs',
  liquid: 'Bottles',
  powder: 'Powders',
  slow: 'Infusions and ferments',
  surface: 'Surfaces',
  skin: 'People',
}
const options = computed(() => [
  { value: '', label: 'say it instead' },
  ...(all.value ?? []).map((s) => ({ value: s.seen, label: `${heads[s.on] ?? s.on}: ${s.name}` })),
])
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <div class="asked no-print">
        <Choice v-model="seen" label="What is seen" :options="options" />
        <label v-if="!seen">
          <span class="field-label">or in your words</span>
          <Input v-model:value="said" name="why-said" :maxlength="200" placeholder="film on the glasses" />
        </label>
        <Choice
          v-model="formula"
          label="Of which good"
          :options="[
            { value: '', label: 'I do not know' },
            ...(formulas ?? []).map((f) => ({ value: f.id, label: f.name })),
          ]"
        />
        <label>
          <span class="field-label">Dose that was taken</span>
          <Input v-model:value="dose" name="why-dose" :maxlength="60" placeholder="as the formula says" />
        </label>
      </div>
      <p v-if="error && body.seen" class="bad" role="alert">{{ sentence(error) }}</p>
      <Looking v-if="isFetching && !found && body.seen" :pending="true" :error="null" />
      <template v-if="found">
        <p v-if="found.caution" class="caution" role="alert">■ {{ found.caution }}</p>
        <h2>{{ found.name[0]?.toUpperCase() + found.name.slice(1) }}</h2>
        <p class="says" aria-live="polite">{{ found.says }}</p>
        <section v-if="found.ask" class="ask" aria-label="What would tell">
          <p>
            <strong>{{ found.ask.ask }}</strong> <span class="soft">{{ found.ask.trouble }}</span>
          </p>
          <p class="acts no-print">
            <Button size="large" @click="answer(found.ask, 'yes')">{{ found.ask.yes }}</Button>
            <Button size="large" @click="answer(found.ask, 'no')">{{ found.ask.no }}</Button>
          </p>
        </section>
        <p v-if="answers.length" class="given">
          <span v-for="a in answers" :key="a.test">
            {{ tests[a.test]?.ask }}
            <strong>{{ a.shown === 'yes' ? tests[a.test]?.yes : tests[a.test]?.no }}</strong>
            <button class="plain do no-print" type="button" @click="takeBack(a.test)">
              take back<span class="unseen">: {{ tests[a.test]?.ask }}</span>
            </button>
          </span>
        </p>
        <ol class="causes">
          <li v-for="c in likely" :key="c.cause">
            <div class="head">
              <strong>{{ c.name[0]?.toUpperCase() + c.name.slice(1) }}</strong>
              <span class="num">{{ percent(c.odds) }}</span>
            </div>
            <div class="bar" aria-hidden="true"><span :style="{ width: `${c.odds * 100}%` }" /></div>
            <ul v-if="c.because.length || c.but?.length" class="small">
              <li v-for="b in c.because.slice(0, 4)" :key="b">+ {{ b }}</li>
              <li v-for="b in c.but?.slice(0, 2)" :key="b" class="soft">− {{ b }}</li>
            </ul>
            <p class="remedy">
              <span class="soft">{{ kinds[c.kind] }}:</span> {{ c.remedy }}
            </p>
          </li>
        </ol>
        <p class="soft small">
          How usual a cause is and what a test shows are common practice in round numbers; the figures are
          this good’s own. Local codes and licensed practice go before.
        </p>
        <p v-if="formula" class="no-print">
          <RouterLink :to="`/crock/${formula}`">To the formula</RouterLink> ·
          <RouterLink :to="{ path: '/trials/new', query: { formula } }">Try the change against it</RouterLink>
        </p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.asked {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
}

.asked > * {
  flex: 1 1 200px;
  max-width: 340px;
}

.caution {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  margin: 14px 0;
  padding: 10px 14px;
}

h2 {
  margin: 18px 0 4px;
}

.says {
  font-size: 18px;
}

.ask {
  background: var(--cobalt-wash);
  border-left: 4px solid var(--cobalt);
  margin: 12px 0;
  padding: 8px 16px 12px;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 8px 0 0;
}

.given span {
  display: block;
}

.do {
  color: var(--cobalt);
  min-height: 24px;
  text-decoration: underline;
}

.causes {
  list-style: none;
  max-width: 720px;
  padding: 0;
}

.causes > li {
  border-bottom: 1px solid var(--clay-line);
  padding: 10px 0;
}

.head {
  display: flex;
  justify-content: space-between;
}

.bar {
  background: var(--clay-line);
  height: 6px;
  margin: 4px 0 6px;
}

.bar span {
  background: var(--cobalt);
  display: block;
  height: 100%;
}

.causes ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.remedy {
  margin: 6px 0 0;
}
</style>
