<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useFormulas } from '../../api/queries'
import { canMake, currency } from '../../api/session'
import { unsentForm } from '../../api/unsent'
import Choice from '../../parts/Choice.vue'
import Looking from '../../parts/Looking.vue'
import TypedBefore from '../../parts/TypedBefore.vue'
import { counted, day, grams, money, sentence } from '../../words'
import LimitsForm from './LimitsForm.vue'
import PlanBand from './PlanBand.vue'

// What is ordered, what to make when so that it is ready on its day, and what to buy for it.
const client = useQueryClient()
const {
  data: plan,
  isPending,
  error,
  refetch,
} = useQuery({
  queryKey: ['almanac', 'plan'],
  queryFn: () => ask(api.GET('/api/plan')),
  enabled: canMake,
})
const { data: orders } = useQuery({
  queryKey: ['almanac', 'orders'],
  queryFn: () => ask(api.GET('/api/orders')),
  enabled: canMake,
})
const { data: formulas } = useFormulas()
const old = () => void client.invalidateQueries({ queryKey: ['almanac'] })

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
    old()
  },
})
const end = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/orders/{id}', { params: { path: { id } } })),
  onSuccess: old,
})
const chosen = ref<string>()
const first = (o: Schemas['GoodOrder']) => plan.value?.orders.find((p) => p.order === o.id)
const late = computed(() => (plan.value?.orders ?? []).filter((o) => o.late_days > 0 || o.given < o.jars))
const note = computed(() =>
  (plan.value?.shopping ?? [])
    .map((b) =>
      b.packs
        ? `${b.packs} x ${Math.round(b.pack_g ?? 0)} g ${b.name.toLowerCase()}${b.supplier ? ` from ${b.supplier}` : ''}`
        : `${Math.ceil(b.grams)} g ${b.name.toLowerCase()}`,
    )
    .join('; '),
)
const print = () => window.print()
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <header>
        <h1>Almanac</h1>
        <span class="spring" />
        <Button v-if="plan?.makings.length" class="no-print" @click="print">Print</Button>
      </header>
      <p v-if="!canMake" class="empty">What is ordered is for those who make it.</p>
      <template v-else>
        <Looking :pending="isPending" :error="error" @again="refetch()" />
        <template v-if="plan">
          <p v-if="!plan.orders.length" class="empty">
            Nothing is ordered. Note an order beside: it is worked back from its day through drying, steeping
            and the bench, within the days and vessels there are.
          </p>
          <PlanBand
            v-if="plan.orders.length"
            :plan="plan"
            :chosen="chosen"
            @choose="chosen = chosen === $event ? undefined : $event"
          />
          <div v-if="late.length" class="late" role="status">
            <p v-for="o in late" :key="o.order + o.day">
              ■ {{ o.jars }} {{ o.name }}<template v-if="o.to"> for {{ o.to }}</template
              >, {{ day(o.day) }}:
              <template v-if="o.given < o.jars">only {{ o.given }} can be given within the plan.</template>
              <template v-else>{{ counted(o.late_days, 'day') }} late.</template>
            </p>
            <p v-for="l in plan.lifts" :key="l.says">What would help: {{ l.says }}</p>
          </div>
          <ul v-if="plan.unknown.length" class="unknown small">
            <li v-for="u in plan.unknown" :key="u">▲ {{ u }}</li>
          </ul>
          <h2 v-if="plan.makings.length">What to make</h2>
          <table v-if="plan.makings.length" class="rows">
            <thead>
              <tr>
                <th scope="col">at the bench</th>
                <th scope="col">what</th>
                <th scope="col" class="right">jars</th>
                <th scope="col" class="right">hands</th>
                <th scope="col">stands</th>
                <th scope="col">ready</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(m, i) in plan.makings" :key="i" :class="{ on: chosen === m.formula }">
                <td>{{ dayjs(m.bench).format('ddd D MMM') }}</td>
                <td>
                  <RouterLink :to="`/crock/${m.formula}`">{{ m.name }}</RouterLink>
                </td>
                <td class="right num">{{ m.jars }}</td>
                <td class="right num">{{ m.minutes ? `${Math.round(m.minutes)} min` : '' }}</td>
                <td class="soft small">
                  {{
                    m.stands
                      .map(
                        (s) => `${s.step?.toLowerCase()} until ${dayjs(s.to.slice(0, 19)).format('D MMM')}`,
                      )
                      .join(', ')
                  }}
                </td>
                <td>{{ dayjs(m.ready).format('ddd D MMM') }}</td>
              </tr>
            </tbody>
          </table>
          <LimitsForm />
        </template>
      </template>
    </section>
    <aside v-if="canMake" class="asked" aria-label="What is ordered, what to buy">
      <h2>What is ordered</h2>
      <ul class="orders">
        <li v-for="o in orders" :key="o.id">
          <strong>{{ o.jars }} {{ o.name }}</strong
          ><template v-if="o.to"> for {{ o.to }}</template>
          <div class="soft small">
            {{ day(o.day)
            }}<template v-if="o.every_weeks"
              >, every {{ o.every_weeks === 1 ? 'week' : `${o.every_weeks} weeks` }}</template
            ><template v-if="first(o)">
              · {{ first(o)?.given === o.jars && !first(o)?.late_days ? 'in time' : 'not in time' }}</template
            >
          </div>
          <button class="plain do no-print" type="button" :name="`end-${o.name}`" @click="end.mutate(o.id)">
            given, or not wanted<span class="unseen">: {{ o.jars }} {{ o.name }}</span>
          </button>
        </li>
      </ul>
      <p v-if="end.error.value" class="bad" role="alert">{{ sentence(end.error.value) }}</p>
      <form class="field-column no-print" @submit.prevent="add.mutate()">
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
        <Button
          type="primary"
          html-type="submit"
          :disabled="!form.formula || !form.day"
          :loading="add.isPending.value"
          >Note the order</Button
        >
      </form>
      <template v-if="plan?.shopping.length">
        <h2>What to buy for it</h2>
        <table class="rows">
          <tbody>
            <tr v-for="b in plan.shopping" :key="b.material + b.supplier + b.pack_g">
              <td>
                {{ b.name }}
                <div class="soft small">
                  {{ grams(b.grams) }} lacking{{ b.supplier ? `, ${b.supplier}` : ', from nobody so far' }}
                </div>
              </td>
              <td class="right num">
                <template v-if="b.packs">{{ b.packs }} × {{ grams(b.pack_g ?? 0) }}</template>
                <div v-if="b.price" class="soft small">
                  {{ money(b.price, plan.currency ?? currency) }} each
                </div>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="plan.shopping_total">
          Together {{ money(plan.shopping_total, plan.currency ?? currency) }}, at the last prices, without
          delivery.
        </p>
        <RouterLink class="no-print" :to="{ path: '/shelf', query: { delivery: note } }"
          >It came: note a delivery</RouterLink
        >
      </template>
    </aside>
  </div>
</template>

<style scoped>
header {
  align-items: baseline;
  display: flex;
  gap: 12px;
  margin-bottom: 12px;
}

.spring {
  flex: 1;
}

h2 {
  margin: 18px 0 8px;
}

.asked {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 340px;
  overflow: auto;
  padding: 0 20px 40px;
}

.orders,
.unknown {
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
}

.orders li {
  border-bottom: 1px solid var(--clay-line);
  padding: 8px 0;
}

.do {
  color: var(--cobalt);
  font-size: 13px;
  text-decoration: underline;
}

.late {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  margin: 12px 0;
  padding: 8px 12px;
}

.late p {
  margin: 0 0 4px;
}

.unknown {
  color: var(--ochre-ink);
  margin-top: 10px;
}

tr.on {
  background: var(--cobalt-wash);
}

@media (max-width: 900px) {
  .asked {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
  }
}
</style>
