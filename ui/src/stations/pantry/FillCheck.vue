<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { unsentForm } from '../../api/unsent'
import TypedBefore from '../../parts/TypedBefore.vue'
import AboutThis from '../../parts/AboutThis.vue'
import { fromNow, sentence } from '../../words'

// Packed jars weighed, and judged by the rules of the e-mark.
const props = defineProps<{ good: Schemas['PantryLot'] }>()
const client = useQueryClient()
const batch = computed(() => props.good.batch)
const { form, back, empty } = unsentForm<{ weights: string; tare?: number; nominal?: number }>('fill', {
  weights: '',
})
/** Weights as they are typed: one after another, with spaces, commas or lines between. */
const weights = computed(() =>
  form.weights
    .split(/[\s;]+|,(?=\s)/)
    .filter(Boolean)
    .map((w) => Number(w.replace(',', '.'))),
)
const unread = computed(() => weights.value.some((w) => Number.isNaN(w)))
const { data: checks } = useQuery({
  queryKey: computed(() => ['pantry', 'fill', batch.value]),
  meta: { what: 'what was checked before' },
  queryFn: () => ask(api.GET('/api/batches/{id}/fill-checks', { params: { path: { id: batch.value } } })),
})
const check = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/batches/{id}/fill-checks', {
        params: { path: { id: batch.value } },
        body: { gross_g: weights.value, tare_g: form.tare ?? 0, nominal: form.nominal ?? 0 },
      }),
    ),
  onSuccess: () => {
    empty()
    void client.invalidateQueries({ queryKey: ['pantry', 'fill'] })
  },
})
const latest = computed(() => checks.value?.[0])
</script>

<template>
  <div class="fill">
    <form v-if="canMake" class="field-column" @submit.prevent="check.mutate()">
      <TypedBefore :back="back" @empty="empty" />
      <label>
        <span class="field-label">Packed jars on the scale, g, one after another</span>
        <Input.TextArea
          v-model:value="form.weights"
          name="weights"
          :rows="3"
          placeholder="948 951 946 950 949"
        />
      </label>
      <span class="soft small">{{ weights.length }} {{ weights.length === 1 ? 'jar' : 'jars' }}</span>
      <label>
        <span class="field-label">An empty jar with its lid, g</span>
        <InputNumber v-model:value="form.tare" :min="0" name="tare" />
      </label>
      <label>
        <span class="field-label"
          >What the label says (empty: what the jars hold)<AboutThis of="nominal"
        /></span>
        <InputNumber v-model:value="form.nominal" :min="0" name="nominal" />
      </label>
      <p v-if="unread" class="bad">One of these is no weight.</p>
      <Button
        type="primary"
        html-type="submit"
        :disabled="weights.length < 3 || unread"
        :loading="check.isPending.value"
      >
        Check the fill
      </Button>
      <p v-if="check.error.value" class="bad" role="alert">{{ sentence(check.error.value) }}</p>
    </form>
    <section aria-live="polite">
      <template v-if="latest">
        <h2 :class="latest.passes ? 'passes' : 'fails'">
          <span aria-hidden="true">{{ latest.passes ? '●' : '■' }}</span>
          {{ latest.passes ? 'The fill passes' : 'The fill does not pass' }}
        </h2>
        <p>{{ latest.why }}</p>
        <p class="num to">Fill to {{ Math.round(latest.fill_to_g * 10) / 10 }} g</p>
        <p class="soft small">of the good, without its jar</p>
      </template>
      <p v-else class="soft">Weigh at least three packed jars: ten tell more.</p>
      <table v-if="checks?.length" class="rows">
        <thead>
          <tr>
            <th>when</th>
            <th class="right">jars</th>
            <th class="right">mean</th>
            <th class="right">spread<AboutThis of="spread" /></th>
            <th class="right">under T1<AboutThis of="toldUnderT1" /></th>
            <th class="right">under T2<AboutThis of="toldUnderT2" /></th>
            <th><span class="unseen">verdict</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in checks" :key="c.id">
            <td>{{ fromNow(c.at) }}</td>
            <td class="right num">{{ c.n }}</td>
            <td class="right num">{{ c.mean.toFixed(1) }} of {{ c.nominal }} {{ c.unit }}</td>
            <td class="right num">{{ c.spread.toFixed(1) }}</td>
            <td class="right num">{{ c.under_t1 }}</td>
            <td class="right num">{{ c.under_t2 }}</td>
            <td>
              <span class="mark" :class="c.passes ? 'good' : 'stop'">{{
                c.passes ? 'passes' : 'fails'
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="soft small">
        After Directive 76/211/EEC: on average no less than the label says, few under it by more than T1, none
        by more than twice that. An authority checks with samples of its own.
      </p>
    </section>
  </div>
</template>

<style scoped>
.fill {
  display: grid;
  gap: 30px;
  grid-template-columns: minmax(240px, 320px) minmax(300px, 620px);
}

.passes {
  color: var(--celadon-ink);
}

.fails {
  color: var(--oxblood);
}

.to {
  font-size: 30px;
  margin: 6px 0 0;
}

.fill :deep(.ant-input-number) {
  width: 100%;
}

@media (max-width: 700px) {
  .fill {
    grid-template-columns: 1fr;
  }
}
</style>
