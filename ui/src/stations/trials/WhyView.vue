<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import { useFormulas, useFoundCauses } from '../../api/queries'
import { canMake } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import FoundCauses from '../../parts/FoundCauses.vue'
import Looking from '../../parts/Looking.vue'
import WhyCauses from '../../parts/WhyCauses.vue'
import { useSettled } from '../../parts/useSettled'
import { sentence } from '../../words'
import WhyChange from './WhyChange.vue'

// Why did it go wrong? What is seen, said or picked; the likely causes with this good's own
// figures; and the cheapest thing that would tell.
const route = useRoute()
const { data: formulas } = useFormulas()
const { data: all } = useQuery({
  queryKey: ['trials', 'seen'],
  queryFn: () => ask(api.GET('/api/why')),
  staleTime: Infinity,
})
const formula = ref(typeof route.query.formula === 'string' ? route.query.formula : '')
const seen = ref(typeof route.query.seen === 'string' ? route.query.seen : '')
const said = ref(typeof route.query.said === 'string' ? route.query.said : '')
const dose = ref('')
const answers = ref<Schemas['WhyAnswer'][]>([])
const { data: file } = useQuery({
  queryKey: computed(() => ['formulas', formula.value]),
  queryFn: () => ask(api.GET('/api/formulas/{id}', { params: { path: { id: formula.value } } })),
  enabled: computed(() => !!formula.value),
})
const body = computed<Schemas['WhyAsked']>(() => ({
  seen: seen.value || said.value,
  ...(formula.value && file.value ? { file: file.value.file } : {}),
  ...(dose.value ? { dose: dose.value } : {}),
  answers: answers.value,
}))
const settled = useSettled(body, 200, true)
const { data, error, isFetching } = useQuery({
  queryKey: computed(() => ['trials', 'why', settled.value]),
  queryFn: () => ask(api.POST('/api/why', { body: settled.value })),
  enabled: computed(() => settled.value.seen.trim().length > 2),
  placeholderData: (last) => last,
  retry: false,
})
const found = computed(() => (body.value.seen.trim().length > 2 && !error.value ? data.value : undefined))
watch([seen, said, formula], () => (answers.value = []))
/** What was taken into the formula, to be tried against the version before. */
const taken = ref<Schemas['StoredFormula']>()
watch(formula, () => (taken.value = undefined))
/** What was found of it before, and what is kept now. */
const batch = typeof route.query.batch === 'string' ? route.query.batch : ''
const { data: before, keep, back } = useFoundCauses(formula)
const wasIt = (cause: string) =>
  found.value &&
  keep.mutate({
    seen: found.value.seen,
    cause,
    ...(formula.value ? { formula: formula.value } : {}),
    ...(batch && formula.value === route.query.formula ? { batch } : {}),
  })
watch([seen, said, formula, answers], () => keep.reset())
const heads: Record<string, string> = {
  dishes: 'Dishes',
  laundry: 'Laundry',
  soap: 'Soap',
  pressed: 'Tabs and bombs',
  liquid: 'Bottles',
  powder: 'Powders',
  slow: 'Infusions and ferments',
  surface: 'Surfaces',
  skin: 'People',
}
const options = computed(() => [
  { value: '', label: 'say it instead' },
  ...(all.value ?? []).map((s) => ({ value: s.seen, label: `${heads[s.on] ?? s.on}: ${s.name}` })),
])
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <div class="asked no-print">
        <Choice v-model="seen" label="What is seen" :options="options" />
        <label v-if="!seen">
          <span class="field-label">or in your words</span>
          <Input v-model:value="said" name="why-said" :maxlength="200" placeholder="film on the glasses" />
        </label>
        <Choice
          v-model="formula"
          label="Of which good"
          :options="[
            { value: '', label: 'I do not know' },
            ...(formulas ?? []).map((f) => ({ value: f.id, label: f.name })),
          ]"
        />
        <label>
          <span class="field-label">Dose that was taken</span>
          <Input v-model:value="dose" name="why-dose" :maxlength="60" placeholder="as the formula says" />
        </label>
      </div>
      <p v-if="error && body.seen" class="bad" role="alert">{{ sentence(error) }}</p>
      <Looking v-if="isFetching && !found && body.seen" :pending="true" :error="null" />
      <p v-if="taken" class="taken" role="status">
        {{ taken.file.name }} is version {{ taken.version }} now, with that changed.
        <RouterLink :to="`/crock/${taken.id}`">To the formula</RouterLink> ·
        <RouterLink :to="{ path: '/trials/new', query: { formula: taken.id, against: taken.version - 1 } }"
          >Try it against the one before</RouterLink
        >
      </p>
      <template v-if="found">
        <WhyCauses v-slot="{ cause }" v-model:answers="answers" :found="found">
          <WhyChange
            v-if="cause.change && file && formula"
            :change="cause.change"
            :stored="file"
            @taken="taken = $event"
          />
          <p v-if="canMake" class="no-print kept">
            <span v-if="keep.data.value?.cause === cause.cause" role="status" class="small">
              Kept{{ keep.data.value.code ? ` with ${keep.data.value.code}` : '' }}: it counts from now on.
            </span>
            <button
              v-else
              class="plain do"
              type="button"
              :disabled="keep.isPending.value"
              @click="wasIt(cause.cause)"
            >
              That was it<span class="unseen">: {{ cause.name }}</span>
            </button>
          </p>
        </WhyCauses>
        <p v-if="keep.isError.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
        <p v-if="formula" class="no-print">
          <RouterLink :to="`/crock/${formula}`">To the formula</RouterLink>
        </p>
      </template>
      <section v-if="before?.length" aria-labelledby="found-before">
        <h2 id="found-before">{{ formula ? 'Found of it before' : 'Found here before' }}</h2>
        <FoundCauses
          :found="before"
          :may-change="canMake"
          :with-good="!formula"
          @back="back.mutate($event)"
        />
      </section>
    </section>
  </div>
</template>

<style scoped>
.asked {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
}

.asked > * {
  flex: 1 1 200px;
  max-width: 340px;
}

.kept {
  margin: 4px 0 0;
}

.do {
  color: var(--cobalt);
  min-height: 32px;
  text-decoration: underline;
}

.taken {
  background: var(--celadon-wash);
  border-left: 4px solid var(--celadon);
  margin: 14px 0;
  padding: 10px 14px;
}
</style>
