<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import { usePantry } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { counted, sentence } from '../../words'
import { useOutlets, usePrices } from './queries'
import StallCounts from './StallCounts.vue'

// What goes out to the stall in the morning: so many of each good that is here.
const emit = defineEmits<{ leave: []; begun: [] }>()
const client = useQueryClient()
const { data: outlets } = useOutlets()
const { data: prices } = usePrices()
const pantry = usePantry()
const stalls = computed(() => {
  const known = (outlets.value ?? []).filter((o) => o.kind === 'stall')
  return known.length ? known : (outlets.value ?? [])
})
const chosen = ref('')
const to = computed({
  get: () => chosen.value || (stalls.value[0]?.name ?? 'Stall'),
  set: (v) => (chosen.value = v),
})

/** Goods that are in jars here and not past their date, with how many. */
const goods = computed(() => {
  const of = new Map<string, { formula: string; name: string; here: number }>()
  for (const g of pantry.goods.value ?? []) {
    if (!g.formula || g.left < 1 || g.state === 'past') continue
    const one = of.get(g.formula) ?? { formula: g.formula, name: g.name, here: 0 }
    one.here += g.left
    of.set(g.formula, one)
  }
  return [...of.values()].sort((a, b) => a.name.localeCompare(b.name))
})
const out = ref<Record<string, number | undefined>>({})
const total = computed(() => Object.values(out.value).reduce<number>((n, c) => n + (c ?? 0), 0))
const priced = (formula: string) => prices.value?.some((p) => p.formula === formula)
const rows = computed(() =>
  goods.value.map((g) => ({
    formula: g.formula,
    name: g.name,
    says: `${g.here} here${priced(g.formula) ? '' : ', no price'}`,
    most: g.here,
  })),
)
const begin = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/stall-days', {
        body: {
          to: to.value,
          lines: Object.entries(out.value).flatMap(([formula, count]) => (count ? [{ formula, count }] : [])),
        },
      }),
    ),
  onSuccess: () => {
    void client.invalidateQueries({ queryKey: ['ledger'] })
    emit('begun')
  },
})
</script>

<template>
  <form @submit.prevent="begin.mutate()">
    <StallCounts
      v-model="out"
      title="What goes out"
      later="not today"
      :goods="rows"
      name="out"
      @leave="emit('leave')"
    >
      <Choice
        v-model="to"
        label="Where to"
        :options="stalls.map((o) => ({ value: o.name, label: o.name }))"
      />
      <Looking :pending="pantry.isPending.value" :error="pantry.error.value" @again="pantry.refetch()" />
    </StallCounts>
    <p v-if="begin.error.value" class="bad" role="alert">{{ sentence(begin.error.value) }}</p>
    <Button
      type="primary"
      size="large"
      html-type="submit"
      :disabled="!total"
      :loading="begin.isPending.value"
    >
      Take {{ counted(total, 'jar') }} out
    </Button>
  </form>
</template>
