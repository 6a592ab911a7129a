<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../api/client'
import { sentence } from '../words'
import WhyCauses from '../parts/WhyCauses.vue'
import { useSettled } from '../parts/useSettled'

// Something is wrong with what was in the jar: what may be the cause, for whoever has it, without
// what it is made of.
const props = defineProps<{ token: string; hardness: string }>()
const open = ref(false)
const said = ref('')
const dose = ref('')
const answers = ref<Schemas['WhyAnswer'][]>([])
watch(said, () => (answers.value = []))
const asked = useSettled(
  computed(() => ({
    seen: said.value.trim(),
    dose: dose.value.trim(),
    hardness: props.hardness,
    answers: answers.value,
  })),
  300,
  true,
)
const { data, error } = useQuery({
  queryKey: computed(() => ['jar', props.token, 'why', asked.value]),
  queryFn: () =>
    ask(
      api.GET('/api/jar-pages/{token}/why', {
        params: {
          path: { token: props.token },
          query: {
            seen: asked.value.seen,
            dose: asked.value.dose || undefined,
            hardness: asked.value.hardness || undefined,
            answers: asked.value.answers.map((a) => `${a.test}:${a.shown}`),
          },
        },
      }),
    ),
  enabled: computed(() => open.value && asked.value.seen.length > 2),
  placeholderData: keepPreviousData,
  retry: false,
})
const found = computed(() => (said.value.trim().length > 2 && !error.value ? data.value : undefined))
</script>

<template>
  <section class="why">
    <Button v-if="!open" size="large" @click="open = true">Something wrong with it?</Button>
    <template v-else>
      <h2>What is wrong?</h2>
      <label>
        <span class="field-label">What you see, in your words</span>
        <input
          v-model="said"
          class="plain-field"
          name="jar-why"
          maxlength="200"
          placeholder="film on the glasses"
        />
      </label>
      <label>
        <span class="field-label">How much of it you took</span>
        <input
          v-model="dose"
          class="plain-field"
          name="jar-dose"
          maxlength="60"
          placeholder="as it says above"
        />
      </label>
      <p v-if="error && said.trim().length > 2" class="bad" role="alert">{{ sentence(error) }}</p>
      <WhyCauses v-if="found" v-model:answers="answers" :found="found" />
    </template>
  </section>
</template>

<style scoped>
.why {
  border-top: 1px solid var(--clay-line);
  margin-top: 20px;
  padding-top: 14px;
}

label {
  display: block;
  margin: 8px 0;
  max-width: 420px;
}

input {
  min-height: 44px;
  width: 100%;
}
</style>
