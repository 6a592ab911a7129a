<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '../../api/client'
import type { Of, Step } from '../../api/batch'
import { canMake } from '../../api/session'
import AddMaterial from './AddMaterial.vue'

// A question to eye and hand: what it looks like when it is right, what else may be
// seen, and what is done about that.
const props = defineProps<{ of: Of; step: Step }>()
const own: Schemas['CheckAnswer'][] = [
  { id: 'good', text: 'It is good', good: true, advice: '' },
  { id: 'not', text: 'Not yet', good: false, advice: 'Put it right, and look again.' },
]
const check = computed(() => (props.step.check?.id ? props.step.check : undefined))
const answers = computed(() => check.value?.answers ?? own)
const seen = ref<Schemas['CheckAnswer']>()
watch(
  () => props.step.step,
  () => (seen.value = undefined),
)
function answer(a: Schemas['CheckAnswer']) {
  seen.value = a.good ? undefined : a
  props.of.act.mutate({ kind: 'checked', step: props.step.step, answer: a.id })
}
</script>

<template>
  <header class="what">
    <p class="soft">step {{ step.step + 1 }} of {{ of.batch.value?.steps?.length }}: look</p>
    <h1>{{ check?.question ?? (step.text || 'Is it as it should be?') }}</h1>
  </header>
  <p v-if="check" class="good">{{ check.good }}</p>
  <p v-if="check && step.text" class="text">{{ step.text }}</p>
  <p
    v-if="of.problem.value"
    class="say"
    :class="of.problem.value.status === 409 ? 'watch' : 'stop'"
    role="alert"
  >
    {{ of.problem.value.detail }}
  </p>
  <div v-if="canMake" class="answers" role="group" aria-label="What do you see?">
    <button
      v-for="a in answers"
      :key="a.id"
      class="big-do"
      type="button"
      :class="{ main: a.good, on: seen?.id === a.id }"
      :disabled="of.act.isPending.value"
      @click="answer(a)"
    >
      {{ a.text }}
    </button>
  </div>
  <template v-if="seen">
    <p class="say watch" role="status">{{ seen.advice }}</p>
    <AddMaterial
      v-if="seen.remedy"
      :key="seen.id"
      :of="of"
      :material="seen.remedy.material"
      :name="seen.remedy.name"
      :amount="seen.remedy.amount"
      :why="`${seen.text}: ${seen.advice}`"
    />
  </template>
  <button
    v-if="canMake"
    class="plain pass"
    type="button"
    @click="of.act.mutate({ kind: 'step-passed', step: step.step })"
  >
    pass over
  </button>
</template>

<style scoped>
.good {
  border-left: 5px solid var(--celadon);
  font-size: 22px;
  padding: 4px 14px;
}

.text {
  font-size: 18px;
}

.answers {
  display: grid;
  gap: 12px;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  margin: 16px 0;
}

.answers .big-do {
  margin: 0;
  min-height: 72px;
}

.answers .on {
  background: var(--ochre-wash);
}

.pass {
  color: var(--cobalt);
  min-height: 44px;
  text-decoration: underline;
}
</style>
