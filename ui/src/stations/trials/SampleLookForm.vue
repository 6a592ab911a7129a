<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { computed, reactive } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence, typedNumber } from '../../words'

// One look at a jar, for wet hands: tap what is seen, and whether it is still good.
const props = defineProps<{ sample: Schemas['Sample'] }>()
const emit = defineEmits<{ kept: [] }>()

const { data: signs } = useQuery({
  queryKey: ['sample-signs'],
  queryFn: () => ask(api.GET('/api/sample-signs')),
  staleTime: Infinity,
})
const look = reactive({ signs: [] as string[], ph: '', note: '' })
const seen = computed(() => (signs.value ?? []).filter((s) => look.signs.includes(s.code)))
const gone = computed(() => seen.value.some((s) => s.gone))
const cautions = computed(() => seen.value.map((s) => s.caution).filter(Boolean))
function toggle(code: string) {
  look.signs = look.signs.includes(code) ? look.signs.filter((c) => c !== code) : [...look.signs, code]
}
const ph = computed(() => typedNumber(look.ph))
const keep = useMutation({
  mutationFn: (good: boolean) =>
    ask(
      api.POST('/api/samples/{id}/looks', {
        params: { path: { id: props.sample.id } },
        body: {
          signs: look.signs,
          good,
          note: look.note,
          ...(ph.value !== undefined && look.ph.trim() ? { ph: ph.value } : {}),
        },
      }),
    ),
  onSuccess: () => {
    Object.assign(look, { signs: [], ph: '', note: '' })
    emit('kept')
  },
})
</script>

<template>
  <form class="look" @submit.prevent>
    <h3>Look at it now</h3>
    <p class="soft small">Tap what is not as it was. Nothing tapped is as new.</p>
    <div class="signs">
      <button
        v-for="s in signs"
        :key="s.code"
        type="button"
        class="plain sign"
        :class="{ on: look.signs.includes(s.code) }"
        :aria-pressed="look.signs.includes(s.code)"
        @click="toggle(s.code)"
      >
        {{ s.name }}
      </button>
    </div>
    <p v-for="c in cautions" :key="c" class="stop" role="alert">{{ c }}</p>
    <div class="more">
      <label
        ><span class="field-label">pH, by a strip</span
        ><Input v-model:value="look.ph" name="look-ph" inputmode="decimal" :maxlength="5"
      /></label>
      <label
        ><span class="field-label">In words</span
        ><Input v-model:value="look.note" name="look-note" :maxlength="400"
      /></label>
    </div>
    <p class="verdict">
      <Button
        v-if="!gone"
        type="primary"
        size="large"
        :loading="keep.isPending.value"
        @click="keep.mutate(true)"
      >
        {{ look.signs.length ? 'Changed, still good' : 'Good, as new' }}
      </Button>
      <Button :type="gone ? 'primary' : 'default'" size="large" danger @click="keep.mutate(false)"
        >Gone</Button
      >
    </p>
    <p v-if="keep.isError.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
  </form>
</template>

<style scoped>
.look {
  border-bottom: 1px solid var(--clay-line);
  border-top: 1px solid var(--clay-line);
  margin: 12px 0;
  padding-bottom: 12px;
}

h3 {
  margin: 12px 0 2px;
}

.signs {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.sign {
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  min-height: 44px;
  padding: 4px 12px;
}

.sign.on {
  background: var(--ochre-wash);
  border-color: var(--ochre);
  font-weight: 600;
}

.stop {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  margin: 10px 0 0;
  padding: 8px 10px;
}

.more {
  display: grid;
  gap: 8px;
  grid-template-columns: 110px 1fr;
  margin: 10px 0;
}

.verdict {
  display: flex;
  gap: 10px;
}
</style>
