<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake, currency } from '../../api/session'
import { sentence } from '../../words'

// What may be done to the formula against a cause: what it changes in the readings, and into
// the formula by one press. The version before stays, and is what it can be tried against.
const props = defineProps<{ change: Schemas['WhyChange']; stored: Schemas['StoredFormula'] }>()
const emit = defineEmits<{ taken: [Schemas['StoredFormula']] }>()

const client = useQueryClient()
const open = ref(false)
const take = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/formulas/{id}', {
        params: { path: { id: props.stored.id } },
        body: { base_version: props.stored.version, file: props.change.file },
      }),
    ),
  onSuccess: (s) => {
    client.setQueryData(['formulas', s.id], s)
    void client.invalidateQueries({ queryKey: ['formulas'] })
    emit('taken', s)
  },
})
const number = (n: number | undefined, places: number) => (n === undefined ? '–' : n.toFixed(places))
const rows = computed(() =>
  props.change.differences.map((d) => ({
    name: d.name,
    before: number(d.a, d.places),
    after: number(d.b, d.places),
    unit: d.code.startsWith('cost-') ? currency.value : d.unit,
  })),
)
</script>

<template>
  <div class="change no-print">
    <button type="button" class="plain do" :aria-expanded="open" @click="open = !open">
      {{ open ? 'Not now' : 'What to change in the formula' }}
    </button>
    <template v-if="open">
      <p>
        <strong>{{ change.says }}</strong>
      </p>
      <table v-if="rows.length" class="rows">
        <thead>
          <tr>
            <th>what that does</th>
            <th class="right">as it is</th>
            <th class="right">changed</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.name">
            <td>
              {{ r.name }} <span class="soft small">{{ r.unit }}</span>
            </td>
            <td class="right num">{{ r.before }}</td>
            <td class="right num">{{ r.after }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="c in change.cautions" :key="c.code" class="bad">■ {{ c.text }} {{ c.advice }}</p>
      <p v-if="canMake">
        <Button type="primary" :loading="take.isPending.value" @click="take.mutate()">
          Take it into {{ stored.file.name }}
        </Button>
        <span class="soft small"> as version {{ stored.versions + 1 }}; the one before stays.</span>
      </p>
      <p v-if="take.isError.value" class="bad" role="alert">{{ sentence(take.error.value) }}</p>
    </template>
  </div>
</template>

<style scoped>
.change {
  margin-top: 6px;
}

.do {
  color: var(--cobalt);
  min-height: 32px;
  text-decoration: underline;
}

table {
  max-width: 520px;
}
</style>
