<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Of, Step } from '../api/batch'
import { about, fromNow, grams, moment, typedNumber } from '../words'
import DryingCurve from './DryingCurve.vue'

// What stands: until when, what it looks like when it is right, and what is done to
// it meanwhile.
const props = defineProps<{ of: Of; step: Step; may: boolean }>()
const act = props.of.act
const send = (body: Parameters<typeof act.mutate>[0]) => act.mutate({ step: props.step.step, ...body })

const due = computed(() => (props.of.batch.value?.due ?? []).filter((d) => d.kind !== 'timer'))
const weight = ref('')
const broken = ref('')
const why = ref('')
const breaking = ref(false)
const drying = computed(() => props.step.drying)
const number = (text: string) => Math.max(0, typedNumber(text) ?? 0)

function weighIn() {
  const g = number(weight.value)
  if (g)
    act.mutate(
      { kind: 'weighed-in', step: props.step.step, grams: g },
      { onSuccess: () => (weight.value = '') },
    )
}
function broke() {
  const n = number(broken.value)
  if (!n || !why.value.trim()) return
  act.mutate(
    { kind: 'pieces-broke', step: props.step.step, count: n, text: why.value.trim() },
    {
      onSuccess: () => {
        broken.value = why.value = ''
        breaking.value = false
      },
    },
  )
}
/** The newest thing done to it that can be taken back. */
const last = computed(() =>
  [...(props.of.batch.value?.events ?? [])]
    .reverse()
    .find(
      (e) =>
        e.can_undo &&
        e.step === props.step.step &&
        ['stirred', 'weighed-in', 'pieces-broke'].includes(e.kind),
    ),
)
const lastWord = computed(() =>
  last.value?.kind === 'stirred'
    ? 'stirred'
    : last.value?.kind === 'weighed-in'
      ? `weighed ${grams(last.value.grams ?? 0)}`
      : 'broken pieces',
)
</script>

<template>
  <p class="until">
    <template v-if="drying?.verdict === 'dry'"> <strong>Dry.</strong> {{ drying.says }} </template>
    <template v-else-if="drying?.ready && drying.verdict === 'drying'">
      Within half a per cent of its end <strong>{{ about(drying.ready) }}</strong>, between
      {{ moment(drying.ready_early) }} and {{ moment(drying.ready_late) }}.
    </template>
    <template v-else-if="step.ready_from">
      Ready <strong>{{ fromNow(step.ready_from) }}</strong>, {{ moment(step.ready_from)
      }}<template v-if="step.ready_to && step.ready_to !== step.ready_from">
        to {{ moment(step.ready_to) }}</template
      >.
    </template>
    <template v-else>It stands until you say that it is done.</template>
  </p>
  <p
    v-if="drying && ['stuck', 'gaining', 'too-few'].includes(drying.verdict)"
    class="say"
    :class="drying.verdict === 'too-few' ? '' : 'watch'"
  >
    {{ drying.says }}
  </p>
  <p v-if="step.text" class="text">{{ step.text }}</p>
  <p v-if="step.looks" class="looks"><span class="soft">When it is right:</span> {{ step.looks }}</p>
  <ul class="due">
    <li v-for="d in due" :key="d.kind" :class="{ late: d.late }">
      {{ d.late ? '▲ ' : '' }}{{ d.what }}, {{ fromNow(d.at) }}
    </li>
  </ul>
  <p
    v-if="of.problem.value"
    class="say"
    :class="of.problem.value.status === 409 ? 'watch' : 'stop'"
    role="alert"
  >
    {{ of.problem.value.detail }}
  </p>

  <DryingCurve v-if="drying && drying.weighings.length > 1" :drying="drying" />

  <template v-if="may">
    <form v-if="step.weighed_in" class="row" @submit.prevent="weighIn">
      <label>
        <span class="field-label">{{
          drying ? 'it weighs now' : 'it weighs at the start, without its tray'
        }}</span>
        <input v-model="weight" name="weigh-in" inputmode="decimal" placeholder="g" />
      </label>
      <button class="big-do" type="submit" :disabled="!number(weight)">Weigh in</button>
    </form>
    <div class="row">
      <button
        v-if="step.stirred"
        class="big-do"
        type="button"
        :disabled="act.isPending.value"
        @click="send({ kind: 'stirred' })"
      >
        Stirred
      </button>
      <button
        class="big-do main"
        type="button"
        :disabled="act.isPending.value"
        @click="send({ kind: 'step-done' })"
      >
        {{ step.name }}: done
      </button>
    </div>
    <p class="small">
      <button
        v-if="last"
        class="plain do"
        type="button"
        @click="act.mutate({ kind: 'undone', event: last.seq })"
      >
        take back “{{ lastWord }}”
      </button>
      <button v-if="!breaking" class="plain do" type="button" @click="breaking = true">some broke</button>
      <button class="plain do" type="button" @click="send({ kind: 'step-passed' })">pass over</button>
    </p>
    <form v-if="breaking" class="row" @submit.prevent="broke" @keydown.esc="breaking = false">
      <label>
        <span class="field-label">pieces</span>
        <input v-model="broken" name="broken" inputmode="numeric" />
      </label>
      <label>
        <span class="field-label">what happened</span>
        <input v-model="why" name="broken-why" class="wide-field" placeholder="the tray cracked" />
      </label>
      <button class="big-do" type="submit" :disabled="!number(broken) || !why.trim()">Write them off</button>
    </form>
  </template>
</template>

<style scoped>
.until {
  font-size: 19px;
  margin: 6px 0;
}

.text,
.looks {
  font-size: 16px;
  margin: 4px 0;
}

.due {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}

.late {
  color: var(--ochre-ink);
  font-weight: 600;
}

.row {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 10px 0;
}

input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 19px var(--slab);
  height: 56px;
  padding: 0 12px;
  width: 120px;
}

.wide-field {
  width: 220px;
}

.do {
  color: var(--cobalt);
  margin-right: 18px;
  min-height: 44px;
  text-decoration: underline;
}
</style>
