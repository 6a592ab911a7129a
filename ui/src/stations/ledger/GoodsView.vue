<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, ask, type Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import type { Format } from '../../parts/table'
import TakeAlong from '../../parts/TakeAlong.vue'
import { takeAlong } from '../../takeAlong'
import { grams, money, percent, sentence } from '../../words'
import CostCrock from './CostCrock.vue'
import { useGoodCosts } from './queries'
import RatesForm from './RatesForm.vue'
import StrataTable from './StrataTable.vue'

// What each good costs and brings. The chosen one is cut open beside the list.
const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const { data, isPending, error, refetch } = useGoodCosts()
const goods = computed(() => data.value ?? [])
const open = computed(
  () =>
    goods.value.find((g) => g.formula === route.params.id) ??
    goods.value.find((g) => g.loses) ??
    goods.value[0],
)
const layer = ref<string>()
watch(open, () => (layer.value = undefined))

const price = ref('')
const deposit = ref('')
watch(
  open,
  (g) => {
    price.value = g?.price ?? ''
    deposit.value = g?.deposit ?? ''
  },
  { immediate: true },
)
const dot = (s: string) => s.replace(',', '.')
const keep = useMutation({
  mutationFn: (g: Schemas['GoodCost']) =>
    ask(
      api.PUT('/api/ledger/prices', {
        body: {
          prices: [{ formula: g.formula, price: dot(price.value), deposit: dot(deposit.value) || undefined }],
        },
      }),
    ),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['ledger'] }),
})
const margin = (g: Schemas['GoodCost']) => (g.margin === undefined ? '' : percent(g.margin))
const perUse = (amount: string | undefined, g: Schemas['GoodCost']) =>
  amount ? money(amount, g.currency) : ''

function along(as: Format) {
  const rows = goods.value.map((g) => [
    g.name,
    g.of,
    g.cost,
    g.at_least ? 'at least' : '',
    g.price,
    g.margin,
    g.mark_up,
    g.cost_per_use,
    g.currency,
  ])
  const head = ['good', 'of a', 'cost', 'known', 'price', 'margin', 'mark-up', 'cost a use', 'currency']
  void takeAlong(as, { file: 'goods', head, rows })
}
</script>

<template>
  <div class="beside">
    <section class="main-part" aria-labelledby="goods-cost">
      <header>
        <h2 id="goods-cost">What goods cost and bring</h2>
        <span class="spring" />
        <TakeAlong v-if="goods.length" @take="along" />
        <a class="as-button" href="/api/ledger/price-list" download="prices.pdf">Price list</a>
      </header>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="data && !goods.length" class="empty">
        Nothing was made here yet. What a good costs is known when its first batch is packed.
      </p>
      <div v-if="goods.length" class="scroll">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">good</th>
              <th scope="col" class="right">a jar costs</th>
              <th scope="col" class="right">sold for</th>
              <th scope="col" class="right">margin<AboutThis of="margin" /></th>
              <th scope="col" class="right">a use</th>
              <th scope="col" class="right">bought</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="g in goods"
              :key="g.formula"
              :class="{ on: g.formula === open?.formula }"
              @click="router.replace(`/ledger/goods/${g.formula}`)"
            >
              <td>
                <RouterLink :to="`/ledger/goods/${g.formula}`" replace>{{ g.name }}</RouterLink>
                <div v-if="g.loses" class="stop small">■ costs more than it brings</div>
              </td>
              <td class="right num">
                <span v-if="g.at_least" class="soft small">at least </span>{{ money(g.cost, g.currency) }}
                <div v-if="g.of !== 'jar'" class="soft small">a {{ g.of }}</div>
              </td>
              <td class="right num">{{ g.price ? money(g.price, g.currency) : 'no price' }}</td>
              <td class="right num" :class="{ stop: g.loses }">{{ margin(g) }}</td>
              <td class="right num">{{ perUse(g.cost_per_use, g) }}</td>
              <td class="right num soft">{{ perUse(g.bought?.per_use, g) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <RatesForm />
    </section>
    <aside v-if="open" class="cut" :aria-label="`What ${open.name} costs`">
      <h2>
        {{ open.name }}, a {{ open.of }}<template v-if="open.each_g"> of {{ grams(open.each_g) }}</template>
      </h2>
      <CostCrock
        :strata="open.strata"
        :currency="open.currency"
        :chosen="layer"
        class="crock"
        @choose="layer = $event"
      />
      <StrataTable
        v-model:chosen="layer"
        :strata="open.strata"
        :currency="open.currency"
        :total="open.cost"
        :at-least="open.at_least"
        :of="`of a ${open.of}`"
      />
      <p class="soft small">
        Over the last {{ open.batches === 1 ? 'batch' : `${open.batches} batches` }}, each of which opens to
        the lots it drew from:
        <template v-for="(b, i) in open.over ?? []" :key="b.batch"
          >{{ i ? ', ' : '' }}<RouterLink :to="`/ledger/batch/${b.batch}`">{{ b.code }}</RouterLink></template
        ><template v-if="open.failed"
          >; {{ open.failed === 1 ? 'one batch' : `${open.failed} batches` }} came to nothing in a
          year</template
        >.
      </p>
      <form v-if="open.of === 'jar'" class="price" @submit.prevent="keep.mutate(open)">
        <label>
          <span class="field-label">A jar is sold for</span>
          <Input v-model:value="price" name="jar-price" inputmode="decimal" :addon-after="open.currency" />
        </label>
        <label>
          <span class="field-label">and deposit</span>
          <Input v-model:value="deposit" name="jar-deposit" inputmode="decimal" />
        </label>
        <Button html-type="submit" :loading="keep.isPending.value">Keep</Button>
      </form>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
      <dl v-if="open.margin !== undefined">
        <div>
          <dt>Margin, of the price</dt>
          <dd class="num" :class="{ stop: open.loses }">{{ percent(open.margin) }}</dd>
        </div>
        <div>
          <dt>Mark-up, on the cost</dt>
          <dd class="num">{{ open.mark_up === undefined ? '–' : percent(open.mark_up) }}</dd>
        </div>
      </dl>
      <p v-if="open.price_for_40">
        For a margin of 40 % it would be
        <button class="plain do" type="button" @click="price = open.price_for_40 ?? ''">
          {{ money(open.price_for_40, open.currency) }}</button>.
      </p>
      <p v-if="open.refill_cost">
        A refill, without the jar, costs {{ money(open.refill_cost, open.currency)
        }}<template v-if="open.refill_price">
          and would be {{ money(open.refill_price, open.currency) }} at the same margin</template
        >.
      </p>
      <p v-if="open.bought && open.cost_per_use">
        A use costs {{ money(open.cost_per_use, open.currency) }}, of {{ open.bought.name }}
        {{ money(open.bought.per_use, open.currency) }}.
      </p>
    </aside>
  </div>
</template>

<style scoped>
header {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  margin-bottom: 10px;
}

.spring {
  flex: 1;
}

.scroll {
  overflow-x: auto;
}

tbody tr {
  cursor: pointer;
}

tr.on {
  background: var(--cobalt-wash);
}

.cut {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 400px;
  overflow: auto;
  padding: 18px 20px 40px;
}

.crock {
  height: 330px;
  margin: 8px auto;
}

.price {
  align-items: end;
  display: flex;
  gap: 10px;
  margin: 14px 0 6px;
}

.price label {
  flex: 1;
}

dl {
  display: flex;
  gap: 28px;
  margin: 12px 0;
}

dt {
  color: var(--ink-soft);
  font-size: 13px;
}

dd {
  font-size: 24px;
  margin: 0;
}

.stop {
  color: var(--oxblood);
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}

.as-button {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  padding: 4px 15px;
  text-decoration: none;
}

@media (max-width: 900px) {
  .cut {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
  }
}
</style>
