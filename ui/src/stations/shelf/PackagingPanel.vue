<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { ref } from 'vue'

import { api, ask } from '../../api/client'
import { canMake, session } from '../../api/session'
import { unsentForm } from '../../api/unsent'
import TypedBefore from '../../parts/TypedBefore.vue'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { count, millilitres, money, sentence } from '../../words'

// Jars, bottles and pouches to fill: how many there are, what one holds and cost.
defineEmits<{ leave: [] }>()
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['shelf', 'packaging'],
  queryFn: () => ask(api.GET('/api/packaging')),
})
const { form, back, empty } = unsentForm('packaging', {
  name: '',
  holds: undefined as number | undefined,
  tare: undefined as number | undefined,
  pieces: undefined as number | undefined,
  price: '',
  supplier: '',
})
const said = ref('')
const take = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/packaging', {
        body: {
          name: form.name,
          holds_ml: form.holds,
          tare_g: form.tare,
          pieces: form.pieces ?? 0,
          price: form.price.replace(',', '.') || undefined,
          supplier: form.supplier || undefined,
        },
      }),
    ),
  onSuccess: (p) => {
    said.value = `Taken in: ${p.name}, ${count(p.left)} there now.`
    empty()
    void client.invalidateQueries({ queryKey: ['shelf'] })
  },
})
</script>

<template>
  <SidePanel title="Jars and bottles" @leave="$emit('leave')">
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="data?.length === 0" class="soft">
      None is noted. What is taken in here can be filled at the end of a batch, and its cost goes into the
      jar.
    </p>
    <table v-if="data?.length" class="rows">
      <thead>
        <tr>
          <th>what</th>
          <th class="right">holds</th>
          <th class="right">each</th>
          <th class="right">there</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in data" :key="p.id">
          <td>{{ p.name }}</td>
          <td class="num right">{{ p.holds_ml ? millilitres(p.holds_ml) : '' }}</td>
          <td class="num right">{{ p.each ? money(p.each, session?.workshop.currency ?? 'EUR') : '' }}</td>
          <td class="num right">{{ count(p.left) }}</td>
        </tr>
      </tbody>
    </table>
    <form v-if="canMake" class="field-column" @submit.prevent="take.mutate()">
      <TypedBefore :back="back" @empty="empty" />
      <h3>Take some in</h3>
      <label>
        <span class="field-label">What</span>
        <Input v-model:value="form.name" name="pack-name" placeholder="jar 0.7 l with lid" />
      </label>
      <div class="pair">
        <label>
          <span class="field-label">One holds</span>
          <InputNumber v-model:value="form.holds" :min="0" addon-after="ml" name="pack-holds" />
        </label>
        <label>
          <span class="field-label">weighs empty<AboutThis of="tare" /></span>
          <InputNumber v-model:value="form.tare" :min="0" addon-after="g" name="pack-tare" />
        </label>
        <label>
          <span class="field-label">How many</span>
          <InputNumber v-model:value="form.pieces" :min="1" name="pack-pieces" />
        </label>
        <label>
          <span class="field-label">for, all of them</span>
          <Input v-model:value="form.price" name="pack-price" placeholder="24.00" />
        </label>
      </div>
      <label>
        <span class="field-label">From</span>
        <Input v-model:value="form.supplier" name="pack-supplier" />
      </label>
      <p v-if="take.error.value" class="bad" role="alert">{{ sentence(take.error.value) }}</p>
      <Button html-type="submit" :disabled="!form.name || !form.pieces">Take in</Button>
      <span class="soft" role="status">{{ said }}</span>
    </form>
  </SidePanel>
</template>

<style scoped>
form {
  margin-top: 18px;
}
</style>
