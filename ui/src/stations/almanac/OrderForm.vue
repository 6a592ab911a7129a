<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import dayjs from 'dayjs'

import { api, ask } from '../../api/client'
import { useFormulas } from '../../api/queries'
import { unsentForm } from '../../api/unsent'
import Choice from '../../parts/Choice.vue'
import TypedBefore from '../../parts/TypedBefore.vue'
import { sentence } from '../../words'

// An order, filled in.
const client = useQueryClient()
const { data: formulas } = useFormulas()
const { form, back, sent, empty } = unsentForm('order', {
  formula: '',
  jars: 12,
  to: '',
  day: dayjs().add(14, 'day').format('YYYY-MM-DD'),
  every: 0,
})
const add = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/orders', {
        body: {
          formula: form.formula,
          jars: form.jars,
          day: form.day,
          to: form.to || undefined,
          every_weeks: form.every || undefined,
        },
      }),
    ),
  onSuccess: () => {
    sent()
    void client.invalidateQueries({ queryKey: ['almanac'] })
  },
})
</script>

<template>
  <form class="field-column" @submit.prevent="add.mutate()">
    <TypedBefore :back="back" @empty="empty" />
    <Choice
      v-model="form.formula"
      label="Good"
      :options="(formulas ?? []).map((f) => ({ value: f.id, label: f.name }))"
    />
    <div class="pair">
      <label>
        <span class="field-label">Jars</span>
        <InputNumber v-model:value="form.jars" name="order-jars" :min="1" :max="100000" />
      </label>
      <label>
        <span class="field-label">For the day</span>
        <input v-model="form.day" class="plain-field" type="date" name="order-day" />
      </label>
    </div>
    <div class="pair">
      <label>
        <span class="field-label">For whom</span>
        <Input v-model:value="form.to" name="order-to" :maxlength="120" />
      </label>
      <Choice
        v-model="form.every"
        label="How often"
        :options="
          [0, 1, 2, 3, 4, 8].map((n) => ({
            value: n,
            label: n === 0 ? 'once' : n === 1 ? 'every week' : `every ${n} weeks`,
          }))
        "
      />
    </div>
    <p v-if="add.error.value" class="bad" role="alert">{{ sentence(add.error.value) }}</p>
    <Button html-type="submit" :disabled="!form.formula || !form.day" :loading="add.isPending.value"
      >Note the order</Button
    >
  </form>
</template>
