<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import { api, ask } from '../../api/client'
import { canMake, session } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { day, sentence } from '../../words'
import CodePhotos from './CodePhotos.vue'
import PairLines from './PairLines.vue'
import PairOrder from './PairOrder.vue'
import SwatchSlider from './SwatchSlider.vue'

// A trial: judged pair by pair with one tap a mark, without knowing which good is behind a code;
// then its answer, each pair a line.
const props = defineProps<{ trial: string }>()
const client = useQueryClient()
const prepares = ref(false)
const { data, isPending, error, refetch } = useQuery({
  queryKey: computed(() => ['trials', props.trial, prepares.value]),
  queryFn: () =>
    ask(
      api.GET('/api/trials/{id}', {
        params: { path: { id: props.trial }, query: prepares.value ? { key: true } : {} },
      }),
    ),
})
const judge = ref(session.value?.person.name ?? '')
const pair = ref(0)
/** The first pair that this judge has not marked whole. */
const open = computed(() => {
  const at = (data.value?.sheet ?? []).find(
    (p) => !p.codes.every((c) => c.marks.some((m) => m.judge === judge.value)),
  )
  return at?.pair ?? 0
})
watch([open, data], () => {
  if (!pair.value) pair.value = open.value || 1
})
const now = computed(() => data.value?.sheet?.find((p) => p.pair === pair.value))
const given = (code: string) =>
  now.value?.codes.find((c) => c.code === code)?.marks.find((m) => m.judge === judge.value)?.mark
const old = () => void client.invalidateQueries({ queryKey: ['trials'] })
const mark = useMutation({
  mutationFn: (m: { pair: number; code: string; mark: number }) =>
    ask(
      api.POST('/api/trials/{id}/marks', {
        params: { path: { id: props.trial } },
        body: { ...m, judge: judge.value || undefined },
      }),
    ),
  onSuccess: old,
})
const rank = useMutation({
  mutationFn: (order: string[]) =>
    ask(
      api.POST('/api/trials/{id}/ranks', {
        params: { path: { id: props.trial } },
        body: { pair: pair.value, order, judge: judge.value || undefined },
      }),
    ),
  onSuccess: old,
})
const end = useMutation({
  mutationFn: () => ask(api.POST('/api/trials/{id}/end', { params: { path: { id: props.trial } } })),
  onSuccess: old,
})
/** What both photos are there of. */
const photographed = computed(() =>
  (data.value?.sheet ?? []).flatMap((p) =>
    p.codes.flatMap(({ code, good, swatch }) =>
      swatch?.before && swatch.after
        ? [{ pair: p.pair, code, good, swatch, note: swatch.after.note ?? swatch.before.note }]
        : [],
    ),
  ),
)
const isOdd = (v: string) => ({ better: 'good', worse: 'stop' })[v] ?? 'watch'
const print = () => window.print()
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <template v-if="data">
        <p class="no-print back"><RouterLink to="/trials">All trials</RouterLink></p>
        <h2>{{ data.question }}</h2>
        <p class="soft">
          {{ data.goods.map((g) => g.name).join(', ') }}; {{ data.pairs }} pairs<template v-if="data.measure"
            >; {{ data.measure }},
            {{ data.ranked ? 'in order, best first' : `${data.better} is better` }}</template
          ><template v-if="data.same">. The same: {{ data.same }}</template>
        </p>
        <p v-for="g in data.goods.filter((x) => x.changed)" :key="g.name" class="watch">
          ▲ {{ g.name }} was changed since: this is of version {{ g.version }}.
        </p>

        <template v-if="data.ended">
          <section
            v-for="c in data.answer?.comparisons"
            :key="c.good"
            class="answer"
            :class="isOdd(c.verdict)"
          >
            <p class="says">{{ c.says }}</p>
            <PairLines v-if="c.differences.length" :comparison="c" :measure="data.measure" />
            <p class="soft small">
              {{ c.pairs }} pairs. Signed ranks, exact, two-sided: p {{ c.p_holm.toPrecision(2)
              }}<template v-if="c.p !== c.p_holm">
                ({{ c.p.toPrecision(2) }} before it was one of several)</template
              >; by signs alone {{ (c.p_sign ?? 1).toPrecision(2)
              }}<template v-if="c.confidence"
                >. The interval holds {{ Math.round(c.confidence * 1000) / 10 }} %.</template
              >
            </p>
          </section>
          <p v-if="!data.answer?.comparisons.length" class="empty">Nothing was marked in it.</p>
          <section v-if="photographed.length" class="photos">
            <h3>Before and after</h3>
            <figure v-for="p in photographed" :key="`${p.pair} ${p.code}`">
              <SwatchSlider :swatch="p.swatch" />
              <figcaption>
                <strong>{{ p.good }}</strong>, pair {{ p.pair }}
                <template v-if="p.swatch.left"><br />{{ p.swatch.left.says }}</template>
                <template v-if="p.note"
                  ><br /><span class="soft small">{{ p.note }}</span></template
                >
              </figcaption>
            </figure>
          </section>
          <p class="soft">Ended {{ day(data.ended_at) }}. Which was which:</p>
          <table class="rows">
            <thead>
              <tr>
                <th scope="col">pair</th>
                <th v-for="c in data.sheet?.[0]?.codes" :key="c.code" scope="col">{{ c.code }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in data.sheet" :key="p.pair">
                <td class="num">{{ p.pair }}</td>
                <td v-for="c in p.codes" :key="c.code">
                  {{ c.good }}
                  <span class="num soft">{{ c.marks.map((m) => m.mark).join(' / ') }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </template>

        <template v-else>
          <template v-if="canMake">
            <form class="judging no-print" @submit.prevent>
              <label class="judge">
                <span class="field-label">Who judges</span>
                <Input v-model:value="judge" name="judge" :maxlength="60" />
              </label>
              <div class="steps">
                <Button :disabled="pair < 2" @click="pair--">Before</Button>
                <strong>Pair {{ pair }} of {{ data.pairs }}</strong>
                <Button :disabled="pair >= data.pairs" @click="pair++">Next</Button>
              </div>
              <PairOrder
                v-if="data.ranked && now"
                :codes="now.codes"
                :judge="judge"
                :pair="pair"
                @order="rank.mutate($event)"
              />
              <fieldset v-for="c in now?.codes" :key="c.code">
                <legend>
                  <span class="code">{{ c.code }}</span> {{ data.measure }}
                </legend>
                <div v-if="!data.ranked" class="scale">
                  <button
                    v-for="n in 11"
                    :key="n"
                    type="button"
                    :class="{ on: given(c.code) === n - 1 }"
                    :aria-pressed="given(c.code) === n - 1"
                    :aria-label="`${c.code}: ${n - 1}`"
                    @click="mark.mutate({ pair, code: c.code, mark: n - 1 })"
                  >
                    {{ n - 1 }}
                  </button>
                </div>
                <div v-if="!data.ranked" class="ends soft small">
                  <span>0: {{ data.low_word }}</span
                  ><span>10: {{ data.high_word }}</span>
                </div>
                <CodePhotos
                  :trial="data.id"
                  :pair="pair"
                  :code="c.code"
                  :swatch="c.swatch"
                  :given="given(c.code)"
                  :ranked="data.ranked"
                  @mark="mark.mutate({ pair, code: c.code, mark: $event })"
                />
              </fieldset>
              <p v-if="mark.error.value || rank.error.value" class="bad" role="alert">
                {{ sentence(mark.error.value ?? rank.error.value) }}
              </p>
              <p class="soft" role="status">{{ data.marked }} of {{ data.wanted }} marks are given.</p>
            </form>
            <p class="acts no-print">
              <Button
                :type="data.marked >= data.wanted ? 'primary' : 'default'"
                :loading="end.isPending.value"
                @click="end.mutate()"
                >End it and see the answer</Button
              >
              <label class="key"
                ><input v-model="prepares" type="checkbox" name="prepares" /> I prepare it, and do not judge:
                show which is which</label
              >
              <Button @click="print">Print the sheet</Button>
            </p>
            <p v-if="end.error.value" class="bad" role="alert">{{ sentence(end.error.value) }}</p>
          </template>
          <table class="rows" :class="{ 'only-print': !prepares }">
            <thead>
              <tr>
                <th scope="col">pair</th>
                <th v-for="c in data.sheet?.[0]?.codes" :key="c.code" scope="col">{{ c.code }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in data.sheet" :key="p.pair">
                <td class="num">{{ p.pair }}</td>
                <td v-for="c in p.codes" :key="c.code">{{ c.good ?? '' }}</td>
              </tr>
            </tbody>
          </table>
        </template>
      </template>
    </section>
  </div>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}

.back {
  margin: 0;
}

.judging {
  max-width: 640px;
}

.steps {
  align-items: center;
  display: flex;
  gap: 14px;
  justify-content: space-between;
  margin: 12px 0;
}

fieldset {
  border: 1px solid var(--clay-line);
  margin: 0 0 14px;
  padding: 8px 14px 12px;
}

.code {
  font: 600 22px var(--slab);
}

.scale {
  display: grid;
  gap: 4px;
  grid-template-columns: repeat(11, 1fr);
}

.scale button {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: 4px;
  font: 600 18px var(--text);
  min-height: 56px;
}

.scale button.on {
  background: var(--cobalt);
  color: var(--on-cobalt);
}

.ends {
  display: flex;
  justify-content: space-between;
  margin-top: 4px;
}

.acts {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
}

.key {
  min-height: 24px;
}

.answer {
  border-left: 4px solid var(--ochre);
  margin: 14px 0;
  padding: 4px 16px;
}

.answer.good {
  border-color: var(--celadon-ink);
}

.answer.stop {
  border-color: var(--oxblood);
}

.photos {
  display: grid;
  margin-bottom: 18px;
  gap: 16px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
}

.photos h3 {
  grid-column: 1 / -1;
  margin: 10px 0 0;
}

figure {
  margin: 0;
}

.says {
  font-size: 18px;
  max-width: 66ch;
}

@media (max-width: 560px) {
  .scale {
    grid-template-columns: repeat(6, 1fr);
  }
}
</style>
