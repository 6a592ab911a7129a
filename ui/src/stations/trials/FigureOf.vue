<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { day, figures, sentence } from '../../words'

// One figure: what it was made of, what it changed, and the way back.
const props = defineProps<{ figure: Schemas['OwnFigure'] }>()
defineEmits<{ leave: [] }>()

const client = useQueryClient()
const refresh = () => void client.invalidateQueries()
const learns = computed(() => props.figure.kind !== 'hands' && props.figure.kind !== 'loads')
const use = useMutation({
  mutationFn: (asUsual: boolean) =>
    ask(
      api.PUT('/api/own-figures', {
        body: { kind: props.figure.kind, of: props.figure.of, as_usual: asUsual },
      }),
    ),
  onSuccess: refresh,
})
const count = useMutation({
  mutationFn: (m: Schemas['OwnMeasuring']) =>
    ask(api.PATCH('/api/measurings/{id}', { params: { path: { id: m.id } }, body: { counts: !m.counts } })),
  onSuccess: refresh,
})
const { data: changes } = useQuery({
  queryKey: computed(() => [
    'own-figures',
    'changes',
    props.figure.kind,
    props.figure.of,
    props.figure.value,
  ]),
  queryFn: () =>
    ask(
      api.GET('/api/own-figures/changes', {
        params: { query: { kind: props.figure.kind, of: props.figure.of } },
      }),
    ),
  enabled: computed(() => props.figure.can_measure || props.figure.kind === 'step'),
})
const KEPT_BEFORE = '00000000-0000-0000-0000-000000000000'
const failed = computed(() => use.error.value ?? count.error.value)
</script>

<template>
  <SidePanel :title="`${figure.name}: ${figure.what}`" @leave="$emit('leave')">
    <p>{{ figure.says }}</p>
    <div v-if="figure.measured.length" class="wide">
      <table class="rows">
        <thead>
          <tr>
            <th>Measured</th>
            <th class="right">{{ figure.unit }}</th>
            <th>When</th>
            <th><span class="unseen">Take back</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(m, i) in figure.measured" :key="i" :class="{ gone: !m.counts }">
            <td>{{ m.said }}</td>
            <td class="right num">{{ figures(m.value) }}</td>
            <td class="small">
              <template v-if="m.id !== KEPT_BEFORE">{{ day(m.at) }}, {{ m.by }}</template>
              <template v-else>said before</template>
            </td>
            <td>
              <button
                v-if="canMake && m.id !== KEPT_BEFORE"
                type="button"
                class="plain do"
                @click="count.mutate(m)"
              >
                {{ m.counts ? 'Take back' : 'Count again' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="canMake && learns && figure.usual">
      <Button v-if="figure.as_usual" type="primary" @click="use.mutate(false)"
        >Use what was measured here</Button
      >
      <Button v-else @click="use.mutate(true)">Back to what is usual</Button>
    </p>
    <p v-if="failed" class="bad" role="alert">{{ sentence(failed) }}</p>
    <template v-if="changes?.length">
      <h3>What it changed</h3>
      <table class="rows">
        <thead>
          <tr>
            <th>Formula</th>
            <th>usual<AboutThis of="usualFigure" /></th>
            <th>here</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in changes" :key="`${c.formula} ${c.what}`">
            <td>
              <RouterLink :to="`/crock/${c.formula}`">{{ c.name }}</RouterLink>
              <div class="soft small">{{ c.what }}</div>
            </td>
            <td class="num band">{{ c.before }}</td>
            <td class="num band">{{ c.after }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-else-if="(figure.can_measure || figure.kind === 'step') && changes && !figure.as_usual" class="soft">
      No formula here goes by it.
    </p>
  </SidePanel>
</template>

<style scoped>
.gone td {
  color: var(--ink-soft);
  text-decoration: line-through;
}

.gone td:last-child {
  text-decoration: none;
}

.do {
  color: var(--cobalt);
  min-height: 36px;
  text-decoration: underline;
}

.band {
  font-size: 0.92em;
  white-space: nowrap;
}

.wide {
  overflow-x: auto;
}
</style>
