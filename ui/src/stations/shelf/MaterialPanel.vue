<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, reactive } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { useLots, useMaterials } from '../../api/queries'
import { canMake, currency } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { day, money, sentence } from '../../words'
import LotList from './LotList.vue'

const props = defineProps<{ jar: Schemas['ShelfJar'] }>()
defineEmits<{ leave: [] }>()

const client = useQueryClient()
const { data: materials } = useMaterials()
const material = computed(() => materials.value?.find((m) => m.id === props.jar.material))

const like = computed(() => materials.value?.find((m) => m.id === material.value?.own?.like))

const { lots } = useLots(() => props.jar.material)
const prices = computed(() => lots.value.filter((l) => l.price_per_kg).slice(0, 6))

const own = reactive({ measure: '1 cup', mass_g: undefined as number | undefined })
const figures = useMutation({
  mutationFn: (body: Schemas['OwnFigures']) =>
    ask(
      api.PUT('/api/materials/{material}/figures', {
        params: { path: { material: props.jar.material } },
        body,
      }),
    ),
  onSuccess: () => {
    own.mass_g = undefined
    void client.invalidateQueries({ queryKey: ['materials'] })
    void client.invalidateQueries({ queryKey: ['shelf'] })
  },
})
function weigh() {
  if (own.mass_g) figures.mutate({ weighed: { measure: own.measure, mass_g: own.mass_g } })
}
</script>

<template>
  <SidePanel :title="jar.name" @leave="$emit('leave')">
    <p class="soft">
      {{ material?.label }}<template v-if="material?.formula"> · {{ material.formula }}</template>
      <template v-if="material?.also.length"><br />also called {{ material.also.join(', ') }}</template>
    </p>
    <p v-if="material?.ph" class="small">
      Its pH is usually <span class="num">{{ material.ph.low }}–{{ material.ph.high }}</span
      >, and nobody can work it out: a lot measured here counts instead.
    </p>
    <p v-if="material?.note" class="note">{{ material.note }}</p>
    <p v-if="material?.own" class="small">
      A material of your own<template v-if="like">, like {{ like.name.toLowerCase() }}</template
      >.
      <RouterLink v-if="canMake" :to="`/shelf/${material.id}?change`">Change it</RouterLink>
    </p>

    <LotList :material="jar.material" :measures-ph="!!material?.ph" />

    <template v-if="prices.length > 1">
      <h3>Price over time</h3>
      <table class="rows">
        <tbody>
          <tr v-for="l in prices" :key="l.id">
            <td>{{ day(l.received) }}</td>
            <td class="soft">{{ l.supplier }}</td>
            <td class="right num">{{ money(l.price_per_kg, l.currency) }} a kg</td>
          </tr>
        </tbody>
      </table>
    </template>

    <h3>Weigh a cup</h3>
    <p v-if="material?.density" class="small">
      A millilitre weighs
      <span class="num">{{ material.density.value.toFixed(2) }} g</span>
      <template v-if="material.density.high > material.density.low">
        ({{ material.density.low.toFixed(2) }}–{{ material.density.high.toFixed(2) }})</template
      >, {{ material.density.source }}.
      <button
        v-if="material.density.own && canMake"
        type="button"
        class="plain do"
        @click="figures.mutate({ forget_density: true })"
      >
        Back to the library’s figure
      </button>
    </p>
    <form v-if="canMake" class="weigh" @submit.prevent="weigh">
      <Input v-model:value="own.measure" name="own-measure" aria-label="Measure" />
      <span>weighs</span>
      <InputNumber v-model:value="own.mass_g" name="own-mass" :min="0.1" addon-after="g" aria-label="Grams" />
      <Button html-type="submit" :disabled="!own.mass_g">Keep</Button>
    </form>
    <p class="small">
      Each weighing pulls the figure a little nearer to yours.
      <RouterLink to="/trials/figures">Own figures</RouterLink> shows what of.
    </p>
    <p v-if="figures.isError.value" class="bad small">{{ sentence(figures.error.value) }}</p>

    <template v-if="canMake">
      <h3>Reorder at<AboutThis of="reorder" /></h3>
      <InputNumber
        :value="jar.reorder_g"
        :min="0"
        :step="500"
        addon-after="g"
        aria-label="Reorder at, in grams"
        @change="(v) => figures.mutate({ reorder_g: Number(v ?? 0) })"
      />
      <p class="soft small">Half a jar on the shelf is this much. Prices are in {{ currency }}.</p>
    </template>
  </SidePanel>
</template>

<style scoped>
h3 {
  margin: 22px 0 6px;
}

.note {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
}

.do {
  color: var(--cobalt);
  white-space: nowrap;
  padding: 4px 0;
  text-decoration: underline;
}

.weigh {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 90px auto 1fr auto;
}
</style>
