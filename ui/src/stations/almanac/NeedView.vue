<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { InputNumber } from 'ant-design-vue'
import { ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import { sentence } from '../../words'

// How much of each good usually goes, reckoned from what went, or as somebody says; and whether
// it is made for that.
const client = useQueryClient()
const {
  data: needs,
  isPending,
  error,
  refetch,
} = useQuery({
  queryKey: ['almanac', 'needs'],
  queryFn: () => ask(api.GET('/api/plan/needs')),
})
const keep = useMutation({
  mutationFn: ({ need, body }: { need: Schemas['GoodNeed']; body: Schemas['NeedSaid'] }) =>
    ask(api.PUT('/api/plan/needs/{id}', { params: { path: { id: need.formula } }, body })),
  onSettled: () => void client.invalidateQueries({ queryKey: ['almanac'] }),
})
const typed = ref<Record<string, number | undefined>>({})
const follow = (need: Schemas['GoodNeed'], on: boolean) => keep.mutate({ need, body: { follow: on } })
function say(need: Schemas['GoodNeed']) {
  const per_week = typed.value[need.formula]
  if (per_week === undefined || per_week === need.per_week) return
  keep.mutate({ need, body: { follow: need.follow, per_week } })
}
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <p class="lead">
        From what was sold, given and taken in the last year, less what came back. What goes by a standing
        order is planned by that order and is not counted here. What is ticked is made week by week, beside
        what is ordered.
      </p>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="needs && !needs.length" class="empty">Nothing went so far.</p>
      <table v-if="needs?.length" class="rows">
        <thead>
          <tr>
            <th scope="col">make it for this</th>
            <th scope="col">good</th>
            <th scope="col">what usually goes</th>
            <th scope="col" class="right">jars a week planned for<AboutThis of="needWeek" /></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="n in needs" :key="n.formula">
            <td>
              <label class="tick"
                ><input
                  type="checkbox"
                  :name="`follow-${n.name}`"
                  :checked="n.follow"
                  @change="follow(n, ($event.target as HTMLInputElement).checked)"
                /><span class="unseen">Make {{ n.name }} for what usually goes</span></label
              >
            </td>
            <td>
              <RouterLink :to="`/crock/${n.formula}`">{{ n.name }}</RouterLink>
            </td>
            <td>
              {{ n.says }}
              <div v-if="n.weeks" class="soft small">from {{ n.weeks }} weeks</div>
            </td>
            <td class="right">
              <InputNumber
                :value="typed[n.formula] ?? Math.round((n.per_week ?? 0) * 10) / 10"
                :aria-label="`Jars of ${n.name} a week`"
                :min="0.1"
                :max="100000"
                :step="1"
                @update:value="typed[n.formula] = Number($event)"
                @blur="say(n)"
                @press-enter="say(n)"
              />
              <button
                v-if="n.said"
                class="plain do"
                type="button"
                @click="
                  (delete typed[n.formula],
                  keep.mutate({ need: n, body: { follow: n.follow, reckoned: true } }))
                "
              >
                as it is reckoned<span class="unseen">: {{ n.name }}</span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
    </section>
  </div>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}

.tick {
  display: inline-block;
  min-height: 24px;
  min-width: 24px;
}

.tick input {
  height: 22px;
  width: 22px;
}

.do {
  color: var(--cobalt);
  font-size: 13px;
  min-height: 24px;
  text-decoration: underline;
}
</style>
