<script setup lang="ts">
import { canMake } from '../../api/session'
import type { Of } from '../../api/batch'
import { useSingleKeys } from '../../parts/useKeys'
import { grams } from '../../words'
import LotPick from './LotPick.vue'
import ScaleHand from './ScaleHand.vue'
import ScaleMeter from './ScaleMeter.vue'
import SlowBudget from './SlowBudget.vue'
import type { useWeighing } from './useWeighing'

// One line at the scale: what to weigh, what is on the pan, from which bag.
const props = defineProps<{ of: Of; weighing: ReturnType<typeof useWeighing> }>()
const { batch, problem } = props.of
const {
  current,
  next,
  lot,
  wanted,
  typed,
  code,
  field,
  weigh,
  record,
  useAllTheSame,
  stepG,
  ready,
  takeReading,
  takeTyped,
  over,
  takeOut,
  keepOver,
  leaveOut,
  scale,
} = props.weighing

useSingleKeys(
  [
    { keys: 'Space', does: 'take the reading' },
    { keys: 't', does: 'tare' },
    { keys: 'w', does: 'type a weight' },
  ],
  {
    ' ': takeReading,
    t: () => void scale.touch({ tare: true }),
    w: () => field.value?.focus(),
  },
)
</script>

<template>
  <template v-if="current && batch">
    <header class="what">
      <h1>{{ current.name }}</h1>
      <p class="soft">
        <template v-if="current.added">added at the bench</template>
        <template v-else>line {{ current.line + 1 }} of {{ batch.lines.length }}</template>
        <template v-if="current.phase"> · {{ current.phase }}</template>
        <template v-if="next"> · then {{ next.name }}</template>
      </p>
    </header>
    <SlowBudget :of="of" :line="current.line" :busy="weigh.isPending.value" @dose="(g) => record(g)" />
    <ScaleMeter :wanted-g="wanted" :line="current" :reading="scale.reading.value" :step-g="stepG" />

    <p v-if="scale.reading.value?.overload" class="say stop" role="alert">
      More than the scale bears. Take some off, and weigh it in two goes.
    </p>
    <p v-if="problem" class="say stop" role="alert">
      {{ problem.detail }}
      <button v-if="problem.code === 'lot-past'" class="big-do" type="button" @click="useAllTheSame">
        Use it all the same
      </button>
    </p>
    <p
      v-if="current.advice"
      class="say"
      :class="current.status === 'over' ? 'watch' : 'plain-say'"
      role="status"
    >
      {{ current.advice }}
      <template v-if="current.status === 'over' && canMake">
        <button class="big-do" type="button" @click="takeOut">I took {{ grams(over) }} out</button>
        <button class="big-do" type="button" @click="keepOver">Keep it and note it</button>
      </template>
    </p>

    <LotPick v-if="!current.unstocked" v-model="lot" :lots="current.lots" :step-g="stepG" />
    <p v-else class="soft">From the tap: no bag to name.</p>

    <div v-if="canMake" class="do-row">
      <button
        v-if="current.hand && current.weighed_g === 0"
        class="big-do main"
        type="button"
        :disabled="weigh.isPending.value"
        @click="record(current.target_g)"
      >
        {{ current.hand }} went in
      </button>
      <button
        v-else
        class="big-do main"
        type="button"
        :disabled="!ready || weigh.isPending.value"
        @click="takeReading"
      >
        Take this reading
      </button>
      <form class="typed" @submit.prevent="takeTyped">
        <input
          ref="field"
          v-model="typed"
          name="typed-grams"
          inputmode="decimal"
          placeholder="or grams"
          aria-label="Grams, typed"
        />
        <input
          v-if="!current.unstocked"
          v-model="code"
          name="lot-code"
          placeholder="lot code"
          aria-label="Code on the bag"
        />
        <button class="big-do" type="submit" :disabled="!typed">Enter</button>
      </form>
    </div>
    <p v-if="canMake && current.optional && current.weighed_g === 0" class="optional">
      {{ current.target_g > 0 ? 'This line is optional.' : 'It may need none.' }}
      <button class="big-do" type="button" :disabled="of.leaveOut.isPending.value" @click="leaveOut">
        {{ current.status === 'left-out' ? 'Take it in after all' : 'Leave it out' }}
      </button>
    </p>
    <ScaleHand v-if="canMake" :wanted="wanted" @touch="scale.touch" />
  </template>
</template>

<style scoped>
.what p {
  margin: 2px 0 0;
}

.do-row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 14px 0;
}

.optional {
  align-items: center;
  display: flex;
  font-size: 17px;
  gap: 14px;
  margin: 0 0 14px;
}

.typed {
  align-items: stretch;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  min-width: 0;
}

.typed input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 20px var(--slab);
  padding: 0 12px;
  width: 140px;
}

.typed input[name='lot-code'] {
  width: 108px;
}
</style>
