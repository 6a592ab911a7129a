<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { waiting } from '../../api/outbox'
import { counted, money, sentence } from '../../words'
import StallCounts from './StallCounts.vue'

// Home from the stall: what is left of each good comes back, the takings are counted.
const props = defineProps<{ day: Schemas['StallDay'] }>()
const emit = defineEmits<{ leave: []; ended: [] }>()
const client = useQueryClient()
const left = (g: Schemas['StallGood']) => g.out - g.sold - g.given - g.back
const rows = computed(() =>
  props.day.goods.map((g) => ({
    formula: g.formula,
    name: g.name,
    says: `${left(g)} of ${g.out} should be there`,
    most: left(g),
  })),
)
const back = ref<Record<string, number | undefined>>(
  Object.fromEntries(props.day.goods.map((g) => [g.formula, left(g)])),
)
const takings = ref('')
const fee = ref(Number(props.day.fee) ? (props.day.fee ?? '') : '')
const fuel = ref(Number(props.day.fuel) ? (props.day.fuel ?? '') : '')
const note = ref('')
const missing = computed(() =>
  props.day.goods.reduce((n, g) => n + left(g) - (back.value[g.formula] ?? 0), 0),
)
const dot = (s: string) => s.replace(',', '.') || undefined
const end = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/stall-days/{id}/end', {
        params: { path: { id: props.day.id } },
        body: {
          back: Object.entries(back.value).flatMap(([formula, count]) => (count ? [{ formula, count }] : [])),
          takings: dot(takings.value),
          fee: dot(fee.value),
          fuel: dot(fuel.value),
          note: note.value || undefined,
        },
      }),
    ),
  onSuccess: () => {
    void client.invalidateQueries({ queryKey: ['ledger'] })
    emit('ended')
  },
})
</script>

<template>
  <form @submit.prevent="end.mutate()">
    <StallCounts
      v-model="back"
      :title="`Home from ${day.outlet_name}`"
      later="still there"
      :goods="rows"
      name="back"
      @leave="emit('leave')"
    >
      <p v-if="waiting.length" class="watch">▲ Sales wait to be sent: end the day once the line is back.</p>
    </StallCounts>
    <p v-if="missing" class="watch">▲ {{ counted(missing, 'jar') }} missing: that is kept as it is.</p>
    <div class="pair">
      <label>
        <span class="field-label">Takings, counted; {{ money(day.brought, day.currency) }} were asked</span>
        <Input
          v-model:value="takings"
          name="takings"
          inputmode="decimal"
          size="large"
          :addon-after="day.currency"
        />
      </label>
      <label>
        <span class="field-label">Note</span>
        <Input v-model:value="note" name="stall-note" size="large" :maxlength="400" />
      </label>
      <label>
        <span class="field-label">Fee</span>
        <Input v-model:value="fee" name="stall-fee" inputmode="decimal" :addon-after="day.currency" />
      </label>
      <label>
        <span class="field-label">Fuel</span>
        <Input v-model:value="fuel" name="stall-fuel" inputmode="decimal" :addon-after="day.currency" />
      </label>
    </div>
    <p v-if="end.error.value" class="bad" role="alert">{{ sentence(end.error.value) }}</p>
    <Button
      type="primary"
      size="large"
      html-type="submit"
      :disabled="waiting.length > 0"
      :loading="end.isPending.value"
      >End the day</Button
    >
  </form>
</template>

<style scoped>
.pair {
  margin-bottom: 14px;
}

.watch {
  color: var(--ochre-ink);
}
</style>
