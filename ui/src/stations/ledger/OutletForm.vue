<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { currency, isOwner } from '../../api/session'
import Choice from '../../parts/Choice.vue'
import { sentence } from '../../words'

// Somebody whom jars go to: how to reach them, and what must not go to them.
const props = defineProps<{ was?: Schemas['Outlet'] }>()
const emit = defineEmits<{ leave: []; kept: [] }>()
const client = useQueryClient()

const kinds = [
  { value: 'outlet', label: 'an outlet: a shop, a café' },
  { value: 'stall', label: 'a stall of ours' },
  { value: 'customer', label: 'a customer' },
] as const
/** What somebody can be kept from, as it is asked. */
const needs = [
  ['infants', 'infants live there'],
  ['pets', 'cats or dogs live there'],
  ['asthma', 'somebody has asthma'],
  ['pregnancy', 'somebody is pregnant'],
  ['septic-tank', 'it drains into a septic tank'],
  ['silk-and-wool', 'it is for silk or wool'],
  ['aluminium', 'it is for aluminium'],
  ['stone', 'it is for natural stone'],
] as const
const isAllergen = (k: string) => k.startsWith('allergen:')
const form = ref({
  name: props.was?.name ?? '',
  kind: (props.was?.kind || 'outlet') as Schemas['OutletKind'],
  reach: props.was?.reach ?? '',
  note: props.was?.note ?? '',
  fee: props.was?.fee ?? '',
  fuel: props.was?.fuel ?? '',
  keep: (props.was?.keep_from ?? []).filter((k) => !isAllergen(k)),
  allergens: (props.was?.keep_from ?? [])
    .filter(isAllergen)
    .map((k) => k.slice(9))
    .join(', '),
})
const done = () => void client.invalidateQueries({ queryKey: ['ledger'] })
const keep = useMutation({
  mutationFn() {
    const f = form.value
    const allergens = f.allergens
      .split(/[,;]/)
      .map((a) => a.trim())
      .filter(Boolean)
    const body: Schemas['OutletPlan'] = {
      name: f.name,
      kind: f.kind,
      reach: f.reach || undefined,
      note: f.note || undefined,
      fee: f.fee.replace(',', '.') || undefined,
      fuel: f.fuel.replace(',', '.') || undefined,
      keep_from: [...f.keep, ...allergens.map((a) => `allergen:${a}`)],
      version: props.was?.version,
    }
    return props.was
      ? ask(api.PUT('/api/outlets/{id}', { params: { path: { id: props.was.id } }, body }))
      : ask(api.POST('/api/outlets', { body }))
  },
  onSuccess: () => {
    done()
    emit('kept')
  },
})
const forgetting = ref(false)
const remove = useMutation({
  mutationFn: (forget: boolean) =>
    ask(
      api.DELETE('/api/outlets/{id}', { params: { path: { id: props.was?.id ?? '' }, query: { forget } } }),
    ),
  onSuccess: () => {
    done()
    emit('leave')
  },
})
</script>

<template>
  <form class="field-column" @submit.prevent="keep.mutate()" @keydown.esc="emit('leave')">
    <header>
      <h2>{{ was?.name ?? 'Who takes jars' }}</h2>
      <button class="plain close" type="button" @click="emit('leave')">close</button>
    </header>
    <label>
      <span class="field-label">Name</span>
      <Input v-model:value="form.name" name="outlet-name" :maxlength="120" />
    </label>
    <Choice v-model="form.kind" label="What they are" :options="[...kinds]" />
    <label>
      <span class="field-label">How to reach them, should a batch have to come back</span>
      <Input v-model:value="form.reach" name="outlet-reach" :maxlength="400" />
    </label>
    <div v-if="form.kind === 'stall'" class="pair">
      <label>
        <span class="field-label">Fee of a day</span>
        <Input v-model:value="form.fee" name="fee" inputmode="decimal" :addon-after="currency" />
      </label>
      <label>
        <span class="field-label">Fuel</span>
        <Input v-model:value="form.fuel" name="fuel" inputmode="decimal" :addon-after="currency" />
      </label>
    </div>
    <fieldset>
      <legend class="field-label">What must be minded, before jars go to them</legend>
      <label v-for="[value, label] in needs" :key="value">
        <input v-model="form.keep" type="checkbox" :value="value" /> {{ label }}
      </label>
      <label>
        <span class="field-label">allergens, by their declared names</span>
        <Input v-model:value="form.allergens" name="allergens" placeholder="linalool, limonene" />
      </label>
    </fieldset>
    <label>
      <span class="field-label">Note</span>
      <Input v-model:value="form.note" name="outlet-note" :maxlength="400" />
    </label>
    <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
    <Button type="primary" html-type="submit" :disabled="!form.name.trim()" :loading="keep.isPending.value"
      >Keep</Button
    >
    <div v-if="was && isOwner" class="away">
      <Button @click="remove.mutate(false)">Take off the list</Button>
      <Button v-if="!forgetting" @click="forgetting = true">Forget them</Button>
      <template v-else>
        <p class="small">
          Name, how to reach them and notes are taken out everywhere, for good. What went to them stays told,
          to nobody by name.
        </p>
        <Button danger @click="remove.mutate(true)">Forget them for good</Button>
      </template>
      <p v-if="remove.error.value" class="bad" role="alert">{{ sentence(remove.error.value) }}</p>
    </div>
  </form>
</template>

<style scoped>
header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

.close {
  color: var(--cobalt);
  padding: 6px;
}

fieldset {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  margin: 0;
  padding: 8px 12px;
}

.away {
  border-top: 1px solid var(--clay-line);
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-top: 12px;
}
</style>
