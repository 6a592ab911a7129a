<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, reactive } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, ask } from '../../api/client'
import { useFormulas } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import { sentence } from '../../words'

// A trial is planned: what is asked, what is held against what, what is marked, how many pairs.
const router = useRouter()
const route = useRoute()
const client = useQueryClient()
const { data: formulas } = useFormulas()
const options = computed(() => [
  { value: '', label: 'a bought one, or plain water' },
  ...(formulas.value ?? []).map((f) => ({ value: f.id, label: f.name })),
])
const wanted = typeof route.query.formula === 'string' ? route.query.formula : ''
/** An earlier version of the same formula that it is tried against. */
const against = Number(route.query.against) || undefined
const form = reactive({
  question: '',
  measure: '',
  low_word: 'none',
  high_word: 'much',
  better: 'lower' as 'lower' | 'higher',
  how: 'marks' as 'marks' | 'order',
  goods: against
    ? [
        { name: 'as before', formula: wanted, version: against },
        { name: 'changed', formula: wanted, version: undefined as number | undefined },
      ]
    : [
        { name: '', formula: '', version: undefined as number | undefined },
        { name: '', formula: wanted, version: undefined as number | undefined },
      ],
  pairs: 8,
  same: '',
  difference: 1,
  spread: 1,
})
const nameOf = (g: { name: string; formula: string }) =>
  g.name || (formulas.value?.find((f) => f.id === g.formula)?.name ?? '')
const { data: needed } = useQuery({
  queryKey: computed(() => ['trials', 'pairs', form.difference, form.spread, form.goods.length]),
  queryFn: () =>
    ask(
      api.GET('/api/trial-pairs', {
        params: { query: { difference: form.difference, spread: form.spread, goods: form.goods.length } },
      }),
    ),
  enabled: computed(() => form.difference > 0 && form.spread > 0),
  placeholderData: (last) => last,
})
const begin = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/trials', {
        body: {
          question: form.question,
          measure: form.measure,
          low_word: form.low_word,
          high_word: form.high_word,
          better: form.better,
          ranked: form.how === 'order',
          goods: form.goods.map((g) => ({
            name: nameOf(g),
            formula: g.formula || undefined,
            version: g.formula ? g.version : undefined,
          })),
          pairs: form.pairs,
          same: form.same,
        },
      }),
    ),
  onSuccess(t) {
    void client.invalidateQueries({ queryKey: ['trials'] })
    void router.push(`/trials/of/${t.id}`)
  },
})
const ready = computed(() => form.question.trim() && form.goods.every((g) => nameOf(g)) && form.pairs > 0)
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <form class="field-column" @submit.prevent="begin.mutate()">
        <h2>A new trial</h2>
        <label>
          <span class="field-label">What do you want to know?</span>
          <Input
            v-model:value="form.question"
            name="trial-question"
            :maxlength="200"
            placeholder="Is Towpath Plain as good as Towpath on tea?"
          />
        </label>
        <fieldset v-for="(g, i) in form.goods" :key="i">
          <legend class="field-label">
            {{ i === 0 ? 'Held against: the control' : `Tried${form.goods.length > 2 ? ` (${i})` : ''}` }}
          </legend>
          <div class="pair">
            <Choice v-model="g.formula" :label="`Formula of good ${i + 1}`" unseen :options="options" />
            <label>
              <span class="unseen">Name of good {{ i + 1 }}</span>
              <Input
                v-model:value="g.name"
                :name="`trial-good-${i}`"
                :maxlength="80"
                :placeholder="nameOf(g) || 'its name'"
              />
            </label>
          </div>
        </fieldset>
        <p v-if="form.goods.length < 4">
          <Button @click="form.goods.push({ name: '', formula: '', version: undefined })"
            >One more good</Button
          >
        </p>
        <Choice
          v-model="form.how"
          label="How is it judged?"
          :options="[
            { value: 'marks', label: 'by marks, from 0 to 10' },
            { value: 'order', label: 'by putting each pair in order, best first' },
          ]"
        />
        <label>
          <span class="field-label">{{
            form.how === 'order' ? 'What is looked at' : 'What is marked, from 0 to 10'
          }}</span>
          <Input
            v-model:value="form.measure"
            name="trial-measure"
            :maxlength="80"
            placeholder="film on the glass"
          />
        </label>
        <div v-if="form.how === 'marks'" class="pair">
          <label>
            <span class="field-label">0 is</span>
            <Input v-model:value="form.low_word" name="trial-low" :maxlength="40" />
          </label>
          <label>
            <span class="field-label">10 is</span>
            <Input v-model:value="form.high_word" name="trial-high" :maxlength="40" />
          </label>
          <Choice
            v-model="form.better"
            label="Better is"
            :options="[
              { value: 'lower', label: 'lower' },
              { value: 'higher', label: 'higher' },
            ]"
          />
        </div>
        <label>
          <span class="field-label">What is kept the same</span>
          <Input
            v-model:value="form.same"
            name="trial-same"
            :maxlength="400"
            placeholder="tap water, four glasses each, 50 °C, milk dried overnight"
          />
        </label>
        <div class="pair">
          <label>
            <span class="field-label">Pairs</span>
            <InputNumber v-model:value="form.pairs" name="trial-pairs" :min="1" :max="200" />
          </label>
          <label v-if="form.how === 'marks'">
            <span class="field-label">A difference you would care about</span>
            <InputNumber v-model:value="form.difference" :min="0.1" :max="10" :step="0.5" />
          </label>
          <label v-if="form.how === 'marks'">
            <span class="field-label">as marks differ from wash to wash</span>
            <InputNumber v-model:value="form.spread" :min="0.1" :max="10" :step="0.5" />
          </label>
        </div>
        <p v-if="form.how === 'order'" class="soft">
          An order tells which is the better, and not by how much: six pairs all to one side are the least
          that can be told from chance, and nine with one to the other side.
        </p>
        <p v-else-if="needed" class="soft" role="status">
          {{ needed.says }}
          <button v-if="needed.pairs" class="plain do" type="button" @click="form.pairs = needed?.pairs ?? 8">
            take {{ needed.pairs }}
          </button>
        </p>
        <p v-if="begin.error.value" class="bad" role="alert">{{ sentence(begin.error.value) }}</p>
        <p>
          <Button type="primary" html-type="submit" :disabled="!ready" :loading="begin.isPending.value"
            >Draw the lots</Button
          >
        </p>
      </form>
    </section>
  </div>
</template>

<style scoped>
form {
  max-width: 640px;
}

fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}

.do {
  color: var(--cobalt);
  min-height: 24px;
  text-decoration: underline;
}
</style>
