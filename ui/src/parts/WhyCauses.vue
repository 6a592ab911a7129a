<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import type { Schemas } from '../api/client'

// What may be the cause of what is seen: what must be minded first, the cheapest thing that
// would tell, what was answered, and the likely causes with what speaks for each.
const props = defineProps<{ found: Schemas['WhyFound'] }>()
const answers = defineModel<Schemas['WhyAnswer'][]>('answers', { required: true })

const tests = ref<Record<string, Schemas['WhyTest']>>({})
watch(
  () => props.found.ask,
  (t) => {
    if (t) tests.value[t.test] = t
  },
  { immediate: true },
)
function answer(t: Schemas['WhyTest'], shown: string) {
  answers.value = [...answers.value, { test: t.test, shown }]
}
const takeBack = (test: string) => (answers.value = answers.value.filter((a) => a.test !== test))
const percent = (odds: number) => (odds < 0.01 ? 'under 1 %' : `${Math.round(odds * 100)} %`)
const MOST = 5
const likely = computed(() => props.found.causes.filter((c) => c.odds >= 0.02).slice(0, MOST))
const kinds: Record<string, string> = {
  dose: 'Dose',
  formula: 'Formula',
  step: 'How it is made or used',
  storage: 'Keeping',
  machine: 'Machine',
}
const capital = (text: string) => (text[0]?.toUpperCase() ?? '') + text.slice(1)
</script>

<template>
  <p v-if="found.caution" class="caution" role="alert">■ {{ found.caution }}</p>
  <h2>{{ capital(found.name) }}</h2>
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
        <strong>{{ capital(c.name) }}</strong>
        <span class="num">{{ percent(c.odds) }}</span>
      </div>
      <p v-if="c.here" class="small here">found here {{ c.here }} of {{ found.found_here }} times</p>
      <div class="bar" aria-hidden="true"><span :style="{ width: `${c.odds * 100}%` }" /></div>
      <ul v-if="c.because.length || c.but?.length" class="small">
        <li v-for="b in c.because.slice(0, 4)" :key="b">+ {{ b }}</li>
        <li v-for="b in c.but?.slice(0, 2)" :key="b" class="soft">− {{ b }}</li>
      </ul>
      <p class="remedy">
        <span class="soft">{{ kinds[c.kind] }}:</span> {{ c.remedy }}
      </p>
      <slot :cause="c" />
    </li>
  </ol>
  <p class="soft small">
    How usual a cause is and what a test shows are common practice in round numbers<template
      v-if="found.found_here"
      >, drawn towards what was found here</template
    >; the figures are this good’s own. Local codes and licensed practice go before.
  </p>
</template>

<style scoped>
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

.here {
  margin: 0;
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
