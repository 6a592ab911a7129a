<script setup lang="ts">
import { computed, onMounted } from 'vue'

import { canMake } from '../../api/session'
import type { Of } from '../../api/batch'
import { byScoop } from '../../parts/byScoop'
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
  typedG,
  code,
  field,
  onBench,
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

const atScale = [
  { keys: 'Space', does: 'take the reading' },
  { keys: 't', does: 'tare' },
]
useSingleKeys([...(onBench ? atScale : []), { keys: 'w', does: 'type a weight' }], {
  ...(onBench ? { ' ': takeReading, t: () => void scale.touch({ tare: true }) } : {}),
  w: () => field.value?.focus(),
})
// without a scale the field is what one works with; a phone opens no keyboard unasked
onMounted(() => {
  if (!onBench && matchMedia('(pointer: fine)').matches) field.value?.focus()
})

/** How the line at hand is put in, where the scale is not asked: in drops and pieces, or by the scoop. */
const byHand = computed(() => {
  const line = current.value
  if (!line) return ''
  if (line.hand && line.weighed_g === 0) return line.hand
  return byScoop.value && line.target_g > 0 ? (line.scoop ?? '') : ''
})
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
    <ScaleMeter
      :wanted-g="wanted"
      :line="current"
      :scale="onBench"
      :by-hand="byHand"
      :reading="scale.reading.value"
      :typed-g="typedG"
      :step-g="stepG"
    />

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

    <div v-if="canMake && (byHand || onBench)" class="do-row">
      <button
        v-if="byHand"
        class="big-do main"
        type="button"
        :disabled="weigh.isPending.value"
        @click="record(current.hand && current.weighed_g === 0 ? current.target_g : (current.left_g ?? 0))"
      >
        {{ byHand }} went in
      </button>
      <button
        v-else-if="onBench"
        class="big-do main"
        type="button"
        :disabled="!ready || weigh.isPending.value"
        @click="takeReading"
      >
        Take this reading
      </button>
    </div>
    <form v-if="canMake" class="typed" @submit.prevent="takeTyped">
      <label class="grams">
        <span class="unseen">Grams, typed</span>
        <input
          ref="field"
          v-model="typed"
          name="typed-grams"
          inputmode="decimal"
          autocomplete="off"
          :placeholder="onBench ? 'or type what you read' : 'what you read'"
        />
        <span class="unit" aria-hidden="true">g</span>
      </label>
      <label v-if="!current.unstocked" class="code">
        <span class="unseen">Code on the bag</span>
        <input v-model="code" name="lot-code" placeholder="lot code" autocomplete="off" />
      </label>
      <button class="big-do" :class="{ main: !onBench && !byHand }" type="submit" :disabled="!typed">
        Enter
      </button>
    </form>
    <div v-if="canMake && current.scoop && !current.hand" class="do-row">
      <button class="big-do" type="button" @click="byScoop = !byScoop">
        {{ byScoop ? 'I weigh' : 'I scoop' }}
      </button>
    </div>
    <p v-if="canMake && current.optional && current.weighed_g === 0" class="optional">
      {{ current.target_g > 0 ? 'This line is optional.' : 'It may need none.' }}
      <button class="big-do" type="button" :disabled="of.leaveOut.isPending.value" @click="leaveOut">
        {{ current.status === 'left-out' ? 'Take it in after all' : 'Leave it out' }}
      </button>
    </p>
    <ScaleHand v-if="canMake && onBench" :wanted="wanted" @touch="scale.touch" />
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
  display: grid;
  gap: 8px;
  grid-template-columns: minmax(0, 1fr) minmax(96px, 150px) auto;
  margin: 14px 0;
}

.typed label {
  position: relative;
}

.typed input {
  background: var(--slip-raised);
  border: 2px solid var(--clay);
  border-radius: var(--corner);
  color: inherit;
  font: 20px var(--slab);
  height: 72px;
  padding: 0 12px;
  width: 100%;
}

.grams input {
  font-size: 34px;
  font-weight: 600;
  padding-right: 40px;
}

.grams input::placeholder {
  font-size: 19px;
  font-weight: 400;
}

.unit {
  color: var(--ink-soft);
  font: 24px var(--slab);
  position: absolute;
  right: 14px;
  top: 20px;
}

@media (max-width: 480px) {
  .typed {
    grid-template-columns: minmax(0, 1fr) auto;
  }

  .grams {
    grid-column: 1 / 3;
  }
}
</style>
