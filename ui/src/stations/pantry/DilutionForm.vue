<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { reactive, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import CautionList from '../../parts/CautionList.vue'
import { day, grams, life, millilitres, money, sentence } from '../../words'

// A strength said any way, put into the bottle at hand.
const props = defineProps<{ good: Schemas['PantryLot'] }>()
const wish = reactive({ said: '', bottle: '', inside: '', inside_said: '' })
const client = useQueryClient()
const again = () => {
  for (const key of ['pantry', 'rack']) void client.invalidateQueries({ queryKey: [key] })
}
/** What was worked out, and for which words: what is noted is what stands there. */
const asked = ref({ ...wish })
const fill = useMutation({
  onMutate: () => {
    asked.value = { ...wish }
    filled.reset()
    back.reset()
  },
  mutationFn: () =>
    ask(
      api.POST('/api/pantry/{id}/dilution', {
        params: { path: { id: props.good.batch } },
        body: { ...wish },
      }),
    ),
})
const filled = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/pantry/{id}/bottles', {
        params: { path: { id: props.good.batch } },
        body: { ...asked.value },
      }),
    ),
  onSuccess: again,
})
const back = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/bottles/{id}', { params: { path: { id } } })),
  onSuccess: () => {
    filled.reset()
    again()
  },
})
</script>

<template>
  <div class="dilution">
    <form class="field-column" @submit.prevent="fill.mutate()">
      <label>
        <span class="field-label">How strong, any way you say it<AboutThis of="thinned" /></span>
        <Input v-model:value="wish.said" name="said" placeholder="1:5, 1 in 6, ¼ cup to a quart, 5 %" />
      </label>
      <label>
        <span class="field-label">The bottle</span>
        <Input v-model:value="wish.bottle" name="bottle" placeholder="500 ml" />
      </label>
      <label>
        <span class="field-label">In it already, if anything</span>
        <Input v-model:value="wish.inside" name="inside" placeholder="200 ml" />
      </label>
      <label v-if="wish.inside">
        <span class="field-label">and that is how strong (empty: water)</span>
        <Input v-model:value="wish.inside_said" name="inside-said" placeholder="1:10" />
      </label>
      <Button
        type="primary"
        html-type="submit"
        :disabled="!wish.said.trim() || !wish.bottle.trim()"
        :loading="fill.isPending.value"
        >Work it out</Button
      >
      <p v-if="fill.error.value" class="bad" role="alert">{{ sentence(fill.error.value) }}</p>
    </form>
    <section v-if="fill.data.value" class="answer" aria-live="polite">
      <p class="num says">{{ fill.data.value.says }}</p>
      <p>
        That is {{ fill.data.value.parts }}, {{ fill.data.value.in_all }}, {{ fill.data.value.percent }},
        {{ fill.data.value.per_litre }}; {{ millilitres(fill.data.value.bottle_ml) }} in all.
      </p>
      <p v-if="fill.data.value.ph">
        pH about <strong class="num">{{ fill.data.value.ph.toFixed(1) }}</strong> at that strength; keeps
        <strong>{{ life(fill.data.value.keeps_days) }}</strong> like this. Write the day on the bottle.
      </p>
      <p v-else>Keeps {{ life(fill.data.value.keeps_days) }} like this. Write the day on the bottle.</p>
      <CautionList v-if="fill.data.value.cautions.length" :cautions="fill.data.value.cautions" />
      <template v-if="canMake">
        <p v-if="filled.data.value" role="status" class="noted">
          {{ grams(filled.data.value.taken_g) }} taken out of {{ filled.data.value.jars.join(' and ') }},
          {{ money(filled.data.value.cost, good.currency) }}. To be emptied by
          {{ day(filled.data.value.empty_by) }}: it comes round on the Rack.
          <button type="button" class="plain do" @click="back.mutate(filled.data.value.id)">
            Take it back
          </button>
        </p>
        <p v-else-if="fill.data.value.good_g > 0">
          <Button :loading="filled.isPending.value" @click="filled.mutate()"
            >I filled it: take it off the stock</Button
          >
        </p>
        <p v-if="back.isSuccess.value && !filled.data.value" role="status" class="soft">
          Taken back: it is in the jars again.
        </p>
        <p v-if="filled.error.value ?? back.error.value" class="bad" role="alert">
          {{ sentence(filled.error.value ?? back.error.value) }}
        </p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.dilution {
  display: grid;
  gap: 30px;
  grid-template-columns: minmax(240px, 340px) minmax(260px, 560px);
}

.do {
  color: var(--cobalt);
  margin-left: 6px;
  min-height: 24px;
  text-decoration: underline;
}

.says {
  font-size: 26px;
  line-height: 1.2;
  margin: 0 0 10px;
}

@media (max-width: 700px) {
  .dilution {
    grid-template-columns: 1fr;
  }
}
</style>
