<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { unsentText } from '../../api/unsent'
import { grams, sentence } from '../../words'

// Stops a batch, after saying what comes of what was weighed: it goes back to
// the bags, or was thrown away and is drawn from them.
const props = defineProps<{ batch: Schemas['Batch'] }>()
const client = useQueryClient()
const asking = ref(false)
const discarded = ref(false)
const reason = unsentText('abandon')
const field = ref<HTMLInputElement>()

const bags = computed(() =>
  props.batch.lines.flatMap((l) =>
    l.lots
      .filter((lot) => lot.weighed_g > 0)
      .map((lot) => ({ name: l.name, code: lot.code, g: lot.weighed_g })),
  ),
)
const abandon = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/batches/{id}/abandon', {
        params: { path: { id: props.batch.id } },
        body: { discarded: discarded.value, reason: reason.value.trim() || 'no reason given' },
      }),
    ),
  onSuccess: (b) => {
    client.setQueryData(['batch', props.batch.id], b)
    for (const key of ['shelf', 'lots', 'batches', 'waiting'])
      void client.invalidateQueries({ queryKey: [key] })
  },
})

async function open() {
  asking.value = true
  await nextTick()
  field.value?.focus()
}
</script>

<template>
  <button v-if="!asking" class="plain start" type="button" @click="open">Abandon this batch</button>
  <form v-else class="ask" @submit.prevent="abandon.mutate()" @keydown.esc="asking = false">
    <strong>Abandon {{ batch.code }}?</strong>
    <template v-if="bags.length">
      <p class="soft small">In the bowl:</p>
      <ul class="small">
        <li v-for="b in bags" :key="b.name + b.code">{{ grams(b.g) }} {{ b.name }}, lot {{ b.code }}</li>
      </ul>
      <label
        ><input v-model="discarded" type="radio" name="fate" :value="false" /> it goes back to the bags</label
      >
      <label><input v-model="discarded" type="radio" name="fate" :value="true" /> it was thrown away</label>
    </template>
    <p v-else class="soft small">Nothing is weighed yet: nothing changes on the shelf.</p>
    <input
      ref="field"
      v-model="reason"
      name="abandon-reason"
      maxlength="500"
      placeholder="why"
      aria-label="Why"
    />
    <p v-if="abandon.isError.value" class="bad small" role="alert">{{ sentence(abandon.error.value) }}</p>
    <button class="do" type="submit" :disabled="abandon.isPending.value">Abandon it</button>
    <button class="plain start" type="button" @click="asking = false">Go on weighing</button>
  </form>
</template>

<style scoped>
.start {
  color: var(--oxblood);
  min-height: 44px;
  text-decoration: underline;
}

.ask {
  background: var(--slip-raised);
  border: 1px solid var(--oxblood);
  border-radius: var(--corner);
  display: flex;
  flex-direction: column;
  gap: 6px;
  margin-bottom: 10px;
  padding: 12px;
}

p,
ul {
  margin: 0;
}

ul {
  padding-left: 18px;
}

label {
  align-items: center;
  display: flex;
  gap: 8px;
  min-height: 36px;
}

input[name='abandon-reason'] {
  background: var(--slip);
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: inherit;
  padding: 8px;
}

.do {
  background: var(--oxblood);
  border: 0;
  border-radius: var(--corner);
  color: var(--on-cobalt);
  cursor: pointer;
  font: 600 18px var(--slab);
  min-height: 48px;
}
</style>
