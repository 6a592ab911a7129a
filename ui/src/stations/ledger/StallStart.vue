<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, InputNumber } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import { usePantry } from '../../api/queries'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import { counted, sentence } from '../../words'
import { useOutlets, usePrices } from './queries'

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
    <header>
      <h2>What goes out</h2>
      <button class="plain close" type="button" @click="emit('leave')">not today</button>
    </header>
    <Choice v-model="to" label="Where to" :options="stalls.map((o) => ({ value: o.name, label: o.name }))" />
    <Looking :pending="pantry.isPending.value" :error="pantry.error.value" @again="pantry.refetch()" />
    <ul>
      <li v-for="g in goods" :key="g.formula">
        <label>
          <span class="name"
            >{{ g.name }}
            <span class="soft small"
              >{{ g.here }} here<template v-if="!priced(g.formula)">, no price</template></span
            ></span
          >
          <InputNumber
            v-model:value="out[g.formula]"
            :min="0"
            :max="g.here"
            :name="`out-${g.name}`"
            size="large"
            inputmode="numeric"
          />
        </label>
      </li>
    </ul>
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

<style scoped>
header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

.close {
  color: var(--cobalt);
  padding: 6px;
}

ul {
  list-style: none;
  margin: 12px 0;
  padding: 0;
}

li label {
  align-items: center;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 6px 0;
}

.name {
  font: 600 17px var(--slab);
}
</style>
