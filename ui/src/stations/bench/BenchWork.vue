<script setup lang="ts">
import { computed, ref } from 'vue'
import { sentence } from '../../words'

import { isOpen, useBatch } from '../../api/batch'
import { canMake } from '../../api/session'
import StandCard from '../../parts/StandCard.vue'
import { useAwake } from '../../parts/useAwake'
import AddMaterial from './AddMaterial.vue'
import BatchEnd from './BatchEnd.vue'
import BatchLog from './BatchLog.vue'
import BenchSheet from './BenchSheet.vue'
import CheckWork from './CheckWork.vue'
import HandOver from './HandOver.vue'
import StepList from './StepList.vue'
import StepWork from './StepWork.vue'
import { useWeighing } from './useWeighing'
import WeighWork from './WeighWork.vue'

const props = defineProps<{ id: string }>()
const of = useBatch(props.id)
const weighing = useWeighing(of)
const { batch, missing } = of
const { current, chosen, stay } = weighing
useAwake(() => !!batch.value && isOpen(batch.value))

const step = computed(() => {
  const b = batch.value
  return b && isOpen(b) && b.step !== undefined ? b.steps?.[b.step] : undefined
})
/** The step that was closed last, to go back to. */
const before = computed(() => {
  const closed = (batch.value?.steps ?? []).filter((s) => s.closed && s.event)
  return closed.sort((a, b) => (a.closed ?? '').localeCompare(b.closed ?? '')).at(-1)
})
const print = () => window.print()
const more = ref<'' | 'add' | 'hand'>('')
</script>

<template>
  <p v-if="missing && !batch" class="pad">
    {{ sentence(missing) }} <RouterLink to="/bench">Back to the bench</RouterLink>
  </p>
  <div v-else-if="batch" class="bench no-print">
    <StepList :batch="batch" :current="current?.line" @pick="(i) => ((chosen = i), (stay = null))" />
    <section class="work" :aria-busy="weighing.weigh.isPending.value || of.act.isPending.value">
      <p v-if="batch.with && isOpen(batch)" class="soft with">with {{ batch.with }} now</p>
      <WeighWork v-if="current" :of="of" :weighing="weighing" />
      <template v-else-if="step && step.stage === 'rack'">
        <header class="what">
          <p class="soft">step {{ step.step + 1 }} of {{ batch.steps?.length }}: stands on the rack</p>
          <h1>{{ step.name }}</h1>
        </header>
        <StandCard :of="of" :step="step" :may="canMake" />
      </template>
      <CheckWork v-else-if="step && step.kind === 'check'" :of="of" :step="step" />
      <StepWork v-else-if="step && step.stage === 'bench'" :of="of" :step="step" />
      <BatchEnd v-else :of="of" :batch="batch" />

      <div v-if="canMake && isOpen(batch)" class="more">
        <button
          v-if="before && !batch.packed_g"
          class="plain do"
          type="button"
          :disabled="of.act.isPending.value"
          @click="of.act.mutate({ kind: 'undone', event: before.event })"
        >
          back to step {{ before.step + 1 }}, {{ before.name.toLowerCase() }}
        </button>
        <button class="plain do" type="button" @click="more = more === 'add' ? '' : 'add'">
          add something else
        </button>
        <button class="plain do" type="button" @click="more = more === 'hand' ? '' : 'hand'">
          hand over
        </button>
        <button class="plain do" type="button" @click="print">print</button>
      </div>
      <AddMaterial v-if="more === 'add'" :of="of" @added="more = ''" />
      <HandOver v-if="more === 'hand'" :of="of" @done="more = ''" />
    </section>
    <BatchLog :batch="batch" :of="of" />
  </div>
  <BenchSheet v-if="batch" :batch="batch" />
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

.with {
  float: right;
  margin: 0;
}

.more {
  border-top: 1px solid var(--clay-line);
  display: flex;
  flex-wrap: wrap;
  gap: 0 26px;
  margin-top: 18px;
  padding-top: 6px;
}

.do {
  min-width: 44px;
  color: var(--cobalt);
  min-height: 44px;
  text-decoration: underline;
}

@media (max-width: 1100px) {
  .bench {
    display: flex;
    flex-direction: column;
    overflow: auto;
  }

  .bench > * {
    flex: none;
  }

  /* at arm's length the step comes first, the list and the log after it */
  .bench > .steps {
    order: 1;
  }

  .bench > .log {
    order: 2;
  }

  .work {
    overflow: visible;
  }
}

@media (max-width: 700px) {
  .work {
    padding: 12px 16px 20px;
  }
}
</style>
