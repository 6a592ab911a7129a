<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, InputNumber } from 'ant-design-vue'
import { computed, reactive, useTemplateRef } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import SidePanel from '../../parts/SidePanel.vue'
import { grams, percent, sentence } from '../../words'
import FeedForm from './FeedForm.vue'
import { age, tints, volume, when, type Vessel } from './vessels'

const props = defineProps<{ vat: Vessel }>()
defineEmits<{ leave: []; change: [] }>()
const client = useQueryClient()

type Amount = number | undefined
const feeding = useTemplateRef('feeding')
const draw = reactive({ ml: undefined as Amount, rests: true })
const path = { id: props.vat.id }
const shown = () => {
  for (const key of ['rack', 'lots', 'shelf']) void client.invalidateQueries({ queryKey: [key] })
}

const act = useMutation({
  mutationFn: (body: Schemas['VesselAct']) =>
    ask(api.POST('/api/vessels/{id}/events', { params: { path }, body })),
  onSuccess: () => {
    feeding.value?.clear()
    draw.ml = undefined
    shown()
  },
})
const undo = useMutation({
  mutationFn: (event: number) =>
    ask(api.POST('/api/vessels/{id}/undo', { params: { path }, body: { event } })),
  onSuccess: shown,
})
const latest = computed(() => [...props.vat.events].sort((a, b) => b.at.localeCompare(a.at)))

function say(e: Schemas['VesselEvent']): string {
  const parts = [
    e.ml ? volume(e.ml) : '',
    e.sugar_g ? `${grams(e.sugar_g)} sugar` : '',
    e.peel_g ? `${grams(e.peel_g)} peel` : '',
    e.text ?? '',
    e.from?.length ? `from ${e.from.map((f) => `${f.name} ${f.code}`).join(' and ')}` : '',
    e.given ? 'given' : '',
    e.unknown ? 'from unknown' : '',
  ].filter(Boolean)
  if (e.kind === 'drawn')
    return `drew ${volume(e.ml ?? 0)}, ${age(e.mean_age_days ?? 0)} old in the mean, ${percent(e.young_share ?? 0)} under two months`
  return e.kind === 'stirred' ? ['stirred', ...parts].join(': ') : `fed ${parts.join(', ')}`
}
</script>

<template>
  <SidePanel :title="vat.name" @leave="$emit('leave')">
    <p v-if="vat.note" class="soft">{{ vat.note }}</p>
    <p>
      <strong class="num">{{ volume(vat.level_ml) }}</strong> of {{ volume(vat.capacity_ml)
      }}<template v-if="vat.level_ml"
        >, {{ age(vat.mean_age_days) }} old in the mean<template v-if="vat.youngest_tenth_days >= 1"
          >; a tenth is younger than {{ age(vat.youngest_tenth_days) }}</template
        ></template
      >.
    </p>
    <ul v-if="vat.level_ml" class="ages" aria-label="How old it is">
      <li v-for="(a, i) in vat.ages" v-show="a.share > 0.0005" :key="a.name">
        <span class="tint" :style="{ background: tints[i], width: `${Math.round(100 * a.share)}%` }" />
        <span>{{ a.name }}</span>
        <span class="num">{{ percent(a.share) }}</span>
      </li>
    </ul>
    <p v-if="vat.advice" class="mind">{{ vat.advice }}</p>
    <p v-if="vat.gas_at_most_l" class="mind small">
      The sugar that went in can give {{ vat.gas_at_most_l.toFixed(1) }} l of gas. Never close it tight: a lid
      against flies that lets the gas out, in a room with air.
      <template v-if="vat.gas_per_day_l && vat.gas_per_day_l >= 0.05">
        About {{ vat.gas_per_day_l.toFixed(1) }} l of it today.
      </template>
    </p>
    <p v-if="vat.warmth" class="mind small">{{ vat.warmth }}</p>

    <template v-if="canMake">
      <Button size="large" :loading="act.isPending.value" @click="act.mutate({ kind: 'stirred' })"
        >Stirred</Button
      >
      <FeedForm ref="feeding" :busy="act.isPending.value" @feed="act.mutate($event)" />
      <form
        class="fields"
        @submit.prevent="
          draw.ml && act.mutate({ kind: 'drawn', ml: draw.ml, rests: !!vat.formula && draw.rests })
        "
      >
        <h3>Draw, stirred and through the sieve</h3>
        <label>
          <span class="field-label">liquid</span>
          <InputNumber v-model:value="draw.ml" :min="0" :max="vat.level_ml" addon-after="ml" name="draw-ml" />
        </label>
        <Button html-type="submit" :disabled="!draw.ml">Comes out</Button>
        <label v-if="vat.formula" class="rests">
          <input v-model="draw.rests" type="checkbox" /> it rests
          {{ vat.rest_days ? `${vat.rest_days} days` : '' }} and is packed as a good
        </label>
      </form>
      <p v-if="act.error.value ?? undo.error.value" class="bad" role="alert">
        {{ sentence(act.error.value ?? undo.error.value) }}
      </p>
    </template>

    <h3>Log</h3>
    <ol class="log">
      <li v-for="e in latest" :key="e.id">
        <span class="soft small num">{{ when(e.at) }}</span>
        <span>
          <component :is="e.undone ? 's' : 'span'">{{ say(e) }}</component>
          <RouterLink v-if="e.batch && !e.undone" :to="`/rack/${e.batch}`" class="small"> rests</RouterLink>
          <button v-if="canMake && !e.undone" class="plain do small" type="button" @click="undo.mutate(e.id)">
            undo
          </button>
        </span>
      </li>
    </ol>
    <p v-if="vat.events.length === 0" class="soft">Nothing is in it yet: feed it.</p>
    <button v-if="canMake" class="plain do" type="button" @click="$emit('change')">
      change how it is kept
    </button>
  </SidePanel>
</template>

<style scoped>
h3 {
  grid-column: 1 / -1;
  margin: 18px 0 4px;
}

.ages {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

.ages li {
  display: grid;
  font-size: 14px;
  gap: 8px;
  grid-template-columns: 1fr 130px 50px;
  padding: 2px 0;
}

.tint {
  border-left: 1px solid var(--ink);
  height: 16px;
}

.mind {
  background: var(--ochre-wash);
  border-left: 4px solid var(--ochre);
  padding: 6px 10px;
}

.fields {
  align-items: end;
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 1fr;
}

.rests {
  grid-column: 1 / -1;
}

.log {
  list-style: none;
  margin: 0;
  padding: 0;
}

.log li {
  display: grid;
  gap: 8px;
  grid-template-columns: 90px 1fr;
  padding: 3px 0;
}

.log .do {
  margin-left: 8px;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
