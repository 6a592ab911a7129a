<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'

import { api, ask, sentence } from '../../api/client'
import { currency } from '../../api/session'
import { useSettled } from '../../parts/useSettled'
import { day, grams, money } from '../../words'

const client = useQueryClient()
const route = useRoute()
const line = ref('')
const settled = useSettled(line, 180)
const field = ref<{ focus(): void }>()
const taken = ref('')

defineExpose({ focus: () => field.value?.focus() })
onMounted(() => {
  if ('delivery' in route.query) field.value?.focus()
})

const { data: read, error } = useQuery({
  queryKey: computed(() => ['delivery', settled.value]),
  queryFn: () => ask(api.POST('/api/deliveries/read', { body: { line: settled.value } })),
  enabled: computed(() => settled.value.trim().length > 3),
  retry: false,
})

const take = useMutation({
  mutationFn: () => ask(api.POST('/api/deliveries', { body: { line: line.value } })),
  onSuccess: (lot) => {
    taken.value = `Taken in: ${grams(lot.original_g)} ${lot.name}, lot ${lot.code}.`
    line.value = ''
    void client.invalidateQueries({ queryKey: ['shelf'] })
    void client.invalidateQueries({ queryKey: ['lots'] })
  },
})
</script>

<template>
  <form class="delivery" @submit.prevent="take.mutate()">
    <label class="field">
      <span class="field-label">A delivery, in one line</span>
      <Input
        ref="field"
        v-model:value="line"
        size="large"
        name="delivery"
        placeholder="5 kg washing soda 11.40 from Quayside, lot 22B, best 2028-06"
        @keydown.esc="line = ''"
        @update:value="taken = ''"
      />
    </label>
    <Button
      html-type="submit"
      size="large"
      type="primary"
      :disabled="!line.trim()"
      :loading="take.isPending.value"
    >
      Take in
    </Button>
    <p class="heard" aria-live="polite">
      <span v-if="take.isError.value" class="bad">{{ sentence(take.error.value) }}</span>
      <span v-else-if="taken" class="good-word">{{ taken }}</span>
      <span v-else-if="line.trim().length > 3 && error" class="bad">{{ sentence(error) }}</span>
      <template v-else-if="line.trim().length > 3 && read">
        <strong>{{ read.name }}</strong>, {{ read.packs > 1 ? `${read.packs} × ${read.amount} = ` : ''
        }}<span class="num">{{ grams(read.mass_g) }}</span
        ><template v-if="read.price"
          >, {{ money(read.price, currency) }} ({{ money(read.price_per_kg, currency) }} a kg)</template
        ><template v-else>, <span class="watch-word">no price</span></template
        ><template v-if="read.supplier">, from {{ read.supplier }}</template
        ><template v-if="read.lot_code">, lot {{ read.lot_code }}</template
        ><template v-if="read.best_before">, best before {{ day(read.best_before) }}</template>
      </template>
    </p>
  </form>
</template>

<style scoped>
.delivery {
  align-items: end;
  display: grid;
  gap: 4px 10px;
  grid-template-columns: 1fr auto;
  margin-top: 12px;
  max-width: 860px;
}

.heard {
  font-size: 14px;
  grid-column: 1 / 3;
  margin: 0;
  min-height: 21px;
}

.good-word {
  color: var(--celadon-ink);
}

.watch-word {
  color: var(--ochre-ink);
}
</style>
