<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { session } from '../../api/session'

// The hand at the simulated scale: what a person does with a bag and a spoon.
const props = defineProps<{ wanted: number }>()
const emit = defineEmits<{ touch: [Schemas['ScaleTouch']] }>()

const pours = [1, 10, 100, 1000]
const put = (g: number) => emit('touch', { put_g: g })
/** All that is wanted, or as much as the scale bears. */
const toTheMark = () => put(Math.min(props.wanted, session.value?.workshop.scale_capacity_g ?? props.wanted))
</script>

<template>
  <fieldset>
    <legend class="soft small">Simulated scale: pour by hand</legend>
    <button v-for="g in pours" :key="g" type="button" @click="put(g)">+ {{ g }} g</button>
    <button type="button" @click="toTheMark">pour to the mark</button>
    <button v-for="g in [1, 10, 100]" :key="-g" type="button" @click="put(-g)">− {{ g }} g</button>
    <button type="button" @click="emit('touch', { tare: true })">tare</button>
    <button type="button" @click="emit('touch', { clear: true })">clear</button>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px dashed var(--clay);
  border-radius: var(--corner);
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
  padding: 6px 12px 10px;
}

button {
  background: var(--slip);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  color: inherit;
  cursor: pointer;
  font: 15px var(--text);
  min-height: 44px;
  padding: 0 12px;
}
</style>
