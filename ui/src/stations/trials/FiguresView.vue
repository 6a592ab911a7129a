<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { sentence } from '../../words'
import FigureBand from './FigureBand.vue'
import FigureOf from './FigureOf.vue'

// What a workshop measured of its own cups, drops and materials, and what its batches showed:
// each figure with what is usual of it, and what it was made of.
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['own-figures'],
  queryFn: () => ask(api.GET('/api/own-figures')),
})
const key = (f: Pick<Schemas['OwnFigure'], 'kind' | 'of'>) => `${f.kind} ${f.of}`
const open = ref('')
const opened = computed(() => data.value?.find((f) => key(f) === open.value))

const said = ref('')
const measure = useMutation({
  mutationFn: (text: string) => ask(api.POST('/api/own-figures', { body: { said: text } })),
  onSuccess: (f) => {
    said.value = ''
    open.value = key(f)
    void client.invalidateQueries()
  },
})
const groups: { kinds: Schemas['OwnFigureKind'][]; title: string; none: string }[] = [
  { kinds: ['density', 'piece'], title: 'Materials', none: 'No cup and no piece was weighed here.' },
  { kinds: ['size'], title: 'Measures', none: 'No drop, scoop or mug was measured here.' },
  {
    kinds: ['drying', 'loads', 'hands'],
    title: 'Goods',
    none: 'No batch was weighed until it was dry, and no loads were counted.',
  },
  {
    kinds: ['step'],
    title: 'Steps',
    none: 'No step was ticked off at the bench yet: then its minutes are counted by themselves.',
  },
]
const of = (kinds: Schemas['OwnFigureKind'][]) => (data.value ?? []).filter((f) => kinds.includes(f.kind))
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <p class="lead">
        A figure from a table is what is usual somewhere. Measured here, it is yours: a few measurings pull
        it, many decide it, and the readings narrow. Nothing that was measured is lost, and each figure goes
        back by one press.
      </p>
      <form v-if="canMake" class="say" @submit.prevent="said.trim() && measure.mutate(said)">
        <label for="measured">What did you measure?</label>
        <div class="row">
          <Input
            id="measured"
            v-model:value="said"
            size="large"
            :maxlength="200"
            placeholder="a cup of washing soda weighs 243 g"
          />
          <Button type="primary" size="large" html-type="submit" :loading="measure.isPending.value"
            >Keep</Button
          >
        </div>
        <p class="soft small">
          Or: 100 drops make 4.6 ml · my mug holds 320 ml · 3 bars of soap weigh 285 g. Level, and on the
          scale.
        </p>
        <p v-if="measure.isError.value" class="bad" role="alert">{{ sentence(measure.error.value) }}</p>
      </form>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <template v-if="data">
        <section v-for="g in groups" :key="g.title">
          <h2>{{ g.title }}</h2>
          <p v-if="!of(g.kinds).length" class="empty">{{ g.none }}</p>
          <ul v-else class="figures">
            <li v-for="f in of(g.kinds)" :key="key(f)" :class="{ at: open === key(f) }">
              <button
                type="button"
                class="plain line"
                :aria-expanded="open === key(f)"
                @click="open = open === key(f) ? '' : key(f)"
              >
                <span class="name"
                  >{{ f.name }} <span class="soft">{{ f.what }}</span></span
                >
                <FigureBand :figure="f" />
                <span v-if="f.as_usual" class="soft small">as usual</span>
                <span v-else-if="f.apart" class="bad small">far from usual</span>
                <span v-else class="soft small">{{ f.count ? `${f.count} ×` : 'counted' }}</span>
              </button>
            </li>
          </ul>
        </section>
      </template>
    </section>
    <FigureOf v-if="opened" :key="open" :figure="opened" @leave="open = ''" />
  </div>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}

.say {
  margin: 16px 0 8px;
  max-width: 640px;
}

.say label {
  display: block;
  font-weight: 600;
  margin-bottom: 6px;
}

.row {
  display: flex;
  gap: 10px;
}

.say p {
  margin: 6px 0 0;
}

h2 {
  margin: 26px 0 6px;
}

.figures {
  list-style: none;
  margin: 0;
  max-width: 760px;
  padding: 0;
}

.figures li {
  border-bottom: 1px solid var(--clay-line);
}

.figures .at {
  background: var(--cobalt-wash);
}

.line {
  align-items: center;
  display: grid;
  gap: 4px 14px;
  grid-template-columns: minmax(0, 1fr) minmax(220px, 300px) 90px;
  min-height: 52px;
  padding: 6px 8px;
  text-align: left;
  width: 100%;
}

.name {
  overflow-wrap: anywhere;
}

@media (max-width: 640px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto;
  }

  .line :nth-child(2) {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
