<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { currency } from '../../api/session'
import { day, money, sentence } from '../../words'
import { usePrices } from './queries'

// What somebody pays for a jar where it is not what everybody does. Left empty it is.
const props = defineProps<{ outlet: string }>()
const client = useQueryClient()
const { data } = usePrices()
const rows = computed(() => {
  const own = new Map((data.value ?? []).filter((p) => p.outlet === props.outlet).map((p) => [p.formula, p]))
  return (data.value ?? [])
    .filter((p) => !p.outlet)
    .map((p) => ({
      formula: p.formula,
      name: p.name,
      listed: p.price,
      own: own.get(p.formula)?.price ?? '',
      was: own.get(p.formula)?.earlier ?? [],
    }))
})
/** What it was before, and until when. */
const said = (e: Schemas['EarlierPrice']) =>
  `${e.price ? money(e.price, e.currency ?? currency.value) : 'as everybody'} until ${day(e.until)}`
const form = ref<Record<string, string>>({})
watch(rows, (r) => (form.value = Object.fromEntries(r.map((x) => [x.formula, x.own]))), { immediate: true })
const changed = computed(() => rows.value.filter((r) => (form.value[r.formula] ?? '') !== r.own))
const keep = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/ledger/prices', {
        body: {
          prices: changed.value.map((r) => ({
            formula: r.formula,
            outlet: props.outlet,
            price: (form.value[r.formula] ?? '').replace(',', '.'),
          })),
        },
      }),
    ),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['ledger'] }),
})
</script>

<template>
  <form v-if="rows.length" @submit.prevent="keep.mutate()">
    <header>
      <h3>What they pay</h3>
      <a :href="`/api/ledger/price-list?outlet=${outlet}`" download="prices.pdf">price list</a>
    </header>
    <label v-for="r in rows" :key="r.formula">
      <span>{{ r.name }}</span>
      <Input
        v-model:value="form[r.formula]"
        :name="`own-${r.name}`"
        inputmode="decimal"
        :placeholder="money(r.listed, currency)"
      />
      <span v-if="r.was.length" class="was soft small">{{ r.was.map(said).join(', ') }}</span>
    </label>
    <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
    <Button html-type="submit" :disabled="!changed.length" :loading="keep.isPending.value"
      >Keep these prices</Button
    >
  </form>
</template>

<style scoped>
form {
  border-top: 1px solid var(--clay-line);
  margin-top: 16px;
  padding-top: 12px;
}

header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

label {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 110px;
  padding: 3px 0;
}

.was {
  grid-column: 1 / -1;
}

button {
  margin-top: 8px;
}
</style>
