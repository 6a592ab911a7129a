<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Of, Step } from '../../api/batch'
import type { Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import { clock, useClock } from '../../parts/useClock'
import { grams, percent, typedNumber } from '../../words'

// One step at the bench, to be read from a metre off: what to do, with what, how
// long, and what is to be measured of it.
const props = defineProps<{ of: Of; step: Step }>()
const batch = computed(() => props.of.batch.value)
const lines = computed(() =>
  props.step.lines.map((i) => batch.value?.lines[i]).filter((l) => l !== undefined),
)

const timers = computed(() => (batch.value?.timers ?? []).filter((t) => t.step === props.step.step))
const running = computed(() => timers.value.length > 0)
const now = useClock()
const left = (t: Schemas['BatchTimer']) => (new Date(t.ends).getTime() - now.value) / 1000

const act = props.of.act
const send = (body: Parameters<typeof act.mutate>[0]) => act.mutate({ step: props.step.step, ...body })

/** What may stay in a sieve: solids that were weighed in. */
const strained = computed(() => (batch.value?.lines ?? []).filter((l) => !l.unstocked && l.weighed_g > 0))
const pieces = ref<number>()
const weight = ref<number>()
const kept = ref<number>()
const keptLine = ref(0)
watch(
  () => props.step.step,
  () => {
    pieces.value = props.step.pieces || undefined
    weight.value = kept.value = undefined
    keptLine.value = props.step.lines[0] ?? strained.value[0]?.line ?? 0
  },
  { immediate: true },
)
const pots = computed(
  () =>
    (batch.value?.events ?? []).filter(
      (e) => e.kind === 'pot-weighed' && e.step === props.step.step && !e.undone,
    ).length,
)
/** What is typed, above nothing. */
const value = (e: Event) => typedNumber((e.target as HTMLInputElement).value) || undefined
</script>

<template>
  <header class="what">
    <p class="soft">step {{ step.step + 1 }} of {{ batch?.steps?.length }}</p>
    <h1>{{ step.name }}</h1>
  </header>
  <ul v-if="lines.length" class="with" aria-label="With">
    <li v-for="l in lines" :key="l.line">
      <span>{{ l.name }}</span> <span class="num">{{ grams(l.weighed_g) }}</span>
    </li>
  </ul>
  <p v-if="step.text" class="text">{{ step.text }}</p>
  <p class="facts">
    <span v-if="step.for"
      ><strong class="num">{{ step.for }}</strong></span
    >
    <span v-if="step.celsius"
      ><strong class="num">{{ step.celsius }} °C</strong></span
    >
    <span v-if="step.vessel">in the {{ step.vessel }}</span>
    <span v-if="step.mould"
      >into the {{ step.mould }}<template v-if="step.pieces">, {{ step.pieces }} pieces</template></span
    >
    <span v-if="step.to"
      >to <strong class="num">{{ step.to }}</strong></span
    >
  </p>
  <p
    v-if="of.problem.value"
    class="say"
    :class="of.problem.value.status === 409 ? 'watch' : 'stop'"
    role="alert"
  >
    {{ of.problem.value.detail }}
  </p>

  <p v-for="t in timers" :key="t.event" class="timer" :class="{ over: left(t) <= 0 }" role="timer">
    <span class="num">{{ clock(left(t)) }}</span>
    <button
      v-if="canMake"
      class="big-do"
      type="button"
      @click="act.mutate({ kind: 'timer-ended', event: t.event })"
    >
      {{ left(t) > 0 ? 'Stop it' : 'Heard' }}
    </button>
  </p>

  <p v-if="step.baked_share" class="say" role="status">
    {{ percent(step.baked_share) }} of the baking soda has become soda ash, by what it lost.
    {{ step.baked ? 'It is done.' : 'Bake on, and weigh it again.' }}
  </p>
  <template v-if="canMake">
    <div v-if="step.waits?.length && !running" class="row">
      <button
        v-for="w in step.waits"
        :key="w.says"
        class="big-do"
        type="button"
        :disabled="act.isPending.value"
        @click="send({ kind: 'timer-set', seconds: w.seconds })"
      >
        Timer, {{ w.says }}
      </button>
    </div>

    <form
      v-if="step.kind === 'press'"
      class="row"
      @submit.prevent="pieces && send({ kind: 'pieces-counted', count: pieces, grams: weight })"
    >
      <label
        >pieces <input :value="pieces" name="pieces" inputmode="numeric" @input="pieces = value($event)"
      /></label>
      <label
        >all weigh
        <input
          :value="weight"
          name="pieces-grams"
          inputmode="decimal"
          placeholder="g"
          @input="weight = value($event)"
      /></label>
      <button class="big-do" type="submit" :disabled="!pieces">Count them</button>
      <span v-if="batch?.pieces" class="soft"
        >{{ batch.pieces }} counted. A piece more or less is normal.</span
      >
    </form>
    <form
      v-if="step.kind === 'heat'"
      class="row"
      @submit.prevent="weight && send({ kind: 'pot-weighed', grams: weight })"
    >
      <label
        >the pot with all in it, {{ pots ? 'after' : 'before' }}
        <input
          :value="weight"
          name="pot-grams"
          inputmode="decimal"
          placeholder="g"
          @input="weight = value($event)"
      /></label>
      <button class="big-do" type="submit" :disabled="!weight">Note it</button>
    </form>
    <template v-if="step.kind === 'strain'">
      <form class="row" @submit.prevent="weight && send({ kind: 'yield-weighed', grams: weight })">
        <label
          >what came through
          <input
            :value="weight"
            name="yield-grams"
            inputmode="decimal"
            placeholder="g"
            @input="weight = value($event)"
        /></label>
        <button class="big-do" type="submit" :disabled="!weight">Note it</button>
      </form>
      <form
        v-if="step.keep !== 'compost' && strained.length"
        class="row"
        @submit.prevent="
          kept &&
          of.keepBack.mutate({
            line: keptLine,
            grams: kept,
            rounds: 0,
            where: step.keep || 'freezer',
            step: step.step,
          })
        "
      >
        <Choice
          v-model="keptLine"
          label="keep"
          :options="strained.map((l) => ({ value: l.line, label: l.name }))"
          tall
        />
        <label
          >for the next round
          <input
            :value="kept"
            name="kept-grams"
            inputmode="decimal"
            placeholder="g"
            @input="kept = value($event)"
        /></label>
        <button class="big-do" type="submit" :disabled="!kept">To the {{ step.keep || 'freezer' }}</button>
      </form>
    </template>
    <form
      v-if="step.kind === 'make-up'"
      class="row"
      @submit.prevent="weight && send({ kind: 'yield-weighed', grams: weight })"
    >
      <label
        >it weighs now
        <input
          :value="weight"
          name="yield-grams"
          inputmode="decimal"
          placeholder="g"
          @input="weight = value($event)"
      /></label>
      <button class="big-do" type="submit" :disabled="!weight">Note it</button>
    </form>

    <div class="row end">
      <button
        class="big-do main"
        type="button"
        :disabled="act.isPending.value"
        @click="send({ kind: 'step-done' })"
      >
        Done
      </button>
      <button
        class="big-do"
        type="button"
        :disabled="act.isPending.value"
        @click="send({ kind: 'step-passed' })"
      >
        Pass over
      </button>
    </div>
  </template>
</template>

<style scoped>
.with {
  font: 600 24px var(--slab);
  list-style: none;
  margin: 10px 0;
  padding: 0;
}

.with li {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  max-width: 520px;
}

.text {
  font-size: 22px;
  max-width: 34em;
}

.facts {
  display: flex;
  flex-wrap: wrap;
  font-size: 20px;
  gap: 4px 28px;
}

.facts strong {
  font-size: 34px;
}

.timer {
  align-items: center;
  display: flex;
  font-size: 64px;
  font-weight: 600;
  gap: 24px;
  line-height: 1;
  margin: 14px 0;
}

.timer.over {
  color: var(--ochre-ink);
}

.row {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 12px 0;
}

label {
  display: flex;
  flex-direction: column;
  font-size: 16px;
  gap: 3px;
}

input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 20px var(--slab);
  height: 56px;
  padding: 0 12px;
  width: 150px;
}
</style>
