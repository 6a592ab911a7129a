<script setup lang="ts">
import { sentence } from '../../api/client'
import { canMake } from '../../api/session'
import { useSingleKeys } from '../../parts/useKeys'
import { grams } from '../../words'
import BatchEnd from './BatchEnd.vue'
import BatchLog from './BatchLog.vue'
import LotPick from './LotPick.vue'
import ScaleHand from './ScaleHand.vue'
import ScaleMeter from './ScaleMeter.vue'
import StepList from './StepList.vue'
import { useWeighing } from './useWeighing'

const props = defineProps<{ id: string }>()
const {
  batch,
  missing,
  current,
  next,
  chosen,
  stay,
  lot,
  wanted,
  typed,
  code,
  problem,
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
  note,
  measure,
  correct,
  scale,
} = useWeighing(props.id)

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
  <p v-if="missing && !batch" class="pad">
    {{ sentence(missing) }} <RouterLink to="/bench">Back to the bench</RouterLink>
  </p>
  <div v-else-if="batch" class="bench">
    <StepList :batch="batch" :current="current?.line" @pick="(i) => ((chosen = i), (stay = null))" />
    <section class="work" :aria-busy="weigh.isPending.value">
      <template v-if="current">
        <header class="what">
          <h1>{{ current.name }}</h1>
          <p class="soft">
            line {{ current.line + 1 }} of {{ batch.lines.length
            }}<template v-if="current.phase"> · {{ current.phase }}</template>
            <template v-if="next"> · then {{ next.name }}</template>
          </p>
        </header>
        <ScaleMeter :wanted-g="wanted" :line="current" :reading="scale.reading.value" :step-g="stepG" />

        <p v-if="scale.reading.value?.overload" class="say stop" role="alert">
          More than the scale bears. Take some off, and weigh it in two goes.
        </p>
        <p v-if="weigh.isPending.value && weigh.failureReason.value" class="say stop" role="alert">
          The server does not answer. This weighing is sent again until it does.
        </p>
        <p v-else-if="problem" class="say stop" role="alert">
          {{ problem.detail }}
          <button v-if="problem.code === 'lot-past'" class="big-do" type="button" @click="useAllTheSame">
            Use it all the same
          </button>
        </p>
        <p
          v-else-if="current.advice"
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
            <button class="big-do" type="submit" :disabled="!typed || weigh.isPending.value">Enter</button>
          </form>
        </div>
        <p v-if="canMake && current.optional && current.weighed_g === 0" class="optional">
          {{ current.target_g > 0 ? 'This line is optional.' : 'It may need none.' }}
          <button
            class="big-do"
            type="button"
            :disabled="leaveOut.isPending.value"
            @click="leaveOut.mutate({ line: current.line, out: current.status !== 'left-out' })"
          >
            {{ current.status === 'left-out' ? 'Take it in after all' : 'Leave it out' }}
          </button>
        </p>
        <ScaleHand v-if="canMake" :wanted="wanted" @touch="scale.touch" />
      </template>
      <BatchEnd v-else :batch="batch" />
    </section>
    <BatchLog
      :batch="batch"
      @note="(t) => note.mutate(t)"
      @measure="(m) => measure.mutate(m)"
      @correct="(c) => correct.mutate(c)"
    />
  </div>
</template>

<style scoped>
.pad {
  padding: 40px;
}

.bench {
  display: grid;
  grid-template-columns: 230px minmax(480px, 1fr) 270px;
  height: 100%;
}

.work {
  overflow: auto;
  padding: 16px 28px 24px;
}

.what h1 {
  font-size: 44px;
}

.what p {
  margin: 2px 0 0;
}

.say {
  border-left: 5px solid var(--clay);
  font-size: 19px;
  margin: 8px 0;
  padding: 8px 14px;
}

.say.stop {
  background: var(--oxblood-wash);
  border-color: var(--oxblood);
}

.say.watch {
  background: var(--ochre-wash);
  border-color: var(--ochre);
}

.do-row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 14px 0;
}

.big-do {
  background: var(--slip-raised);
  border: 2px solid var(--cobalt);
  border-radius: var(--corner);
  color: var(--cobalt);
  cursor: pointer;
  font: 600 19px var(--slab);
  margin-right: 8px;
  min-height: 56px;
  padding: 0 20px;
}

.big-do.main {
  background: var(--cobalt);
  color: var(--on-cobalt);
  flex: 1 1 260px;
  font-size: 24px;
  min-height: 72px;
}

.big-do:disabled {
  cursor: default;
  opacity: 0.4;
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

@media (max-width: 1100px) {
  .bench {
    display: block;
    overflow: auto;
  }
}

/* in the hand the weighing comes first, the list after it */
@media (max-width: 700px) {
  .bench {
    display: flex;
    flex-direction: column;
  }

  .bench > * {
    flex: none;
  }

  .bench > .steps {
    order: 1;
  }

  .bench > .log {
    order: 2;
  }

  .work {
    overflow: visible;
    padding: 12px 16px 20px;
  }
}
</style>
