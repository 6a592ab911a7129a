<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, reactive, ref, watch } from 'vue'

import type { Schemas } from '../../api/client'
import { currency } from '../../api/session'
import { day, grams, money } from '../../words'
import { lineOf } from './shopping'

// What the plan uses beyond what is there, in packs. What is ticked off came: it becomes lines of
// a delivery.
const props = defineProps<{ plan: Schemas['GoodPlan'] }>()
const key = (b: Schemas['ToBuy']) => `${b.material} ${b.supplier ?? ''} ${b.pack_g ?? 0}`
const ticked = reactive(new Set<string>())
watch(
  () => props.plan.shopping,
  (list) => {
    const there = new Set(list.map(key))
    for (const t of ticked) if (!there.has(t)) ticked.delete(t)
  },
)
const came = computed(() => props.plan.shopping.filter((b) => !ticked.size || ticked.has(key(b))))
const note = computed(() => came.value.map(lineOf).join('; '))
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(props.plan.shopping.map(lineOf).join('\n'))
  copied.value = true
}
const canCopy = !!navigator.clipboard
const toggle = (k: string) => (ticked.has(k) ? ticked.delete(k) : ticked.add(k))
</script>

<template>
  <section>
    <h2>What to buy for it</h2>
    <table class="rows">
      <tbody>
        <tr v-for="b in plan.shopping" :key="key(b)">
          <td class="tick">
            <input
              type="checkbox"
              :checked="ticked.has(key(b))"
              :aria-label="`${b.name} came`"
              @change="toggle(key(b))"
            />
          </td>
          <td>
            {{ b.name }}
            <div class="soft small">
              {{ grams(b.grams) }} lacking{{ b.supplier ? `, ${b.supplier}` : ', from nobody so far' }}
            </div>
            <div v-if="b.by" class="soft small">
              for {{ b.waits?.join(', ') }}, {{ day(b.by)
              }}<template v-if="b.order_by">; order by {{ day(b.order_by) }}</template>
            </div>
          </td>
          <td class="right num packs">
            <template v-if="b.packs">{{ b.packs }} × {{ grams(b.pack_g ?? 0) }}</template>
            <div v-if="b.price" class="soft small">{{ money(b.price, plan.currency ?? currency) }} each</div>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="plan.shopping_total">
      Together {{ money(plan.shopping_total, plan.currency ?? currency) }}, at the last prices,
      {{
        plan.delivery
          ? `with ${money(plan.delivery, plan.currency ?? currency)} for delivery`
          : 'without delivery'
      }}.
    </p>
    <p class="acts no-print">
      <RouterLink :to="{ path: '/shelf', query: { delivery: note } }">{{
        ticked.size ? `These ${ticked.size} came: note a delivery` : 'It came: note a delivery'
      }}</RouterLink>
      <Button v-if="canCopy" size="small" @click="copy">{{ copied ? 'Copied' : 'Copy as text' }}</Button>
      <a href="/api/plan/shopping.csv" download="shopping.csv">CSV</a>
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin: 18px 0 8px;
}

.tick {
  vertical-align: top;
  width: 28px;
}

.tick input {
  height: 24px;
  width: 24px;
}

.packs {
  white-space: nowrap;
}

.acts {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}
</style>
