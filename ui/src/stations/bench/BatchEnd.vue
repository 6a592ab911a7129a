<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { InputNumber } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, sentence, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { day, grams, money } from '../../words'

const props = defineProps<{ batch: Schemas['Batch'] }>()
const client = useQueryClient()
const jars = ref(props.batch.containers?.count ?? 1)
const net = computed(() => props.batch.weighed_g * (1 - props.batch.loss))

const finish = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/batches/{id}/finish', {
        params: { path: { id: props.batch.id } },
        body: { jars: jars.value },
      }),
    ),
  onSuccess: (b) => {
    client.setQueryData(['batch', props.batch.id], b)
    for (const key of ['pantry', 'shelf', 'batches', 'waiting'])
      void client.invalidateQueries({ queryKey: [key] })
  },
})
</script>

<template>
  <div v-if="batch.state === 'weighing'" class="end">
    <h1>All is weighed</h1>
    <p class="say">
      {{ grams(batch.weighed_g) }} are in the bowl. Mix as written, fill the jars, and say how many there are.
    </p>
    <div class="fill">
      <InputNumber
        v-model:value="jars"
        :min="1"
        :max="10000"
        size="large"
        name="filled-jars"
        aria-label="Jars filled"
      />
      <span class="of"
        >jars of about <strong class="num">{{ grams(net / (jars || 1)) }}</strong></span
      >
    </div>
    <p v-if="finish.isError.value" class="bad" role="alert">{{ sentence(finish.error.value) }}</p>
    <button
      v-if="canMake"
      class="done"
      type="button"
      :disabled="!jars || finish.isPending.value"
      @click="finish.mutate()"
    >
      Finish the batch
    </button>
  </div>
  <div v-else-if="batch.state === 'finished'" class="end">
    <h1>Finished</h1>
    <p class="code num">{{ batch.code }}</p>
    <p class="say">
      {{ batch.jars }} {{ batch.jars === 1 ? 'jar' : 'jars' }} of {{ grams(batch.each_g ?? 0) }}, for
      <strong class="num">{{ money(batch.cost, batch.currency ?? 'EUR') }}</strong> together.
    </p>
    <p v-for="c in batch.cost_corrected ?? []" :key="c" class="watch">
      A price was put right since, {{ c }}. The batch keeps what it cost then.
    </p>
    <p class="say">
      Best before <strong>{{ day(batch.best_before) }}</strong>: {{ batch.best_before_reason }}.
    </p>
    <RouterLink :to="`/pantry/${batch.id}`" class="done">To the pantry</RouterLink>
  </div>
  <div v-else class="end">
    <h1>Abandoned</h1>
    <p class="say">Nothing more is done to batch {{ batch.code }}.</p>
    <RouterLink to="/bench" class="done">To the bench</RouterLink>
  </div>
</template>

<style scoped>
.end h1 {
  font-size: 44px;
}

.say {
  font-size: 20px;
  max-width: 32em;
}

.code {
  font-size: 40px;
  font-weight: 600;
  margin: 8px 0;
}

.fill {
  align-items: center;
  display: flex;
  gap: 14px;
  margin-bottom: 20px;
}

.of {
  font-size: 20px;
}

.done {
  align-items: center;
  background: var(--cobalt);
  border: 0;
  border-radius: var(--corner);
  color: var(--on-cobalt);
  cursor: pointer;
  display: inline-flex;
  font: 600 24px var(--slab);
  min-height: 72px;
  padding: 0 34px;
  text-decoration: none;
}
</style>
