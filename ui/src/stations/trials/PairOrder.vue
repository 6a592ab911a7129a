<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'

import type { Schemas } from '../../api/client'

// A pair is put in order: the codes are tapped, best first; what is alike shares a place.
const props = defineProps<{ codes: Schemas['TrialCode'][]; judge: string; pair: number }>()
const emit = defineEmits<{ order: [string[]] }>()

/** The codes by their places, as this judge gave them. */
const given = computed(() => {
  const places = props.codes.map((c) => ({
    code: c.code,
    at: c.marks.find((m) => m.judge === props.judge)?.mark,
  }))
  if (places.some((p) => p.at === undefined)) return []
  const order: string[] = []
  for (const at of [...new Set(places.map((p) => p.at ?? 0))].sort((a, b) => a - b))
    order.push(
      places
        .filter((p) => p.at === at)
        .map((p) => p.code)
        .join(''),
    )
  return order
})
const order = ref<string[]>([])
const alike = ref(false)
watch(
  () => [props.pair, props.judge, given.value.join()],
  () => {
    order.value = [...given.value]
    alike.value = false
  },
  { immediate: true },
)
const placed = computed(() => order.value.join(''))
const place = (code: string) => {
  const i = order.value.findIndex((p) => p.includes(code))
  return i < 0 ? undefined : order.value.slice(0, i).join('').length + 1
}
function tap(code: string) {
  if (placed.value.includes(code)) return
  const last = order.value.length - 1
  if (alike.value && last >= 0) order.value[last] += code
  else order.value.push(code)
  alike.value = false
  if (placed.value.length === props.codes.length) emit('order', [...order.value])
}
</script>

<template>
  <fieldset>
    <legend>Tap them in order, best first</legend>
    <div class="codes">
      <button
        v-for="c in codes"
        :key="c.code"
        type="button"
        :class="{ on: place(c.code) }"
        :aria-label="place(c.code) ? `${c.code}: place ${place(c.code)}` : c.code"
        @click="tap(c.code)"
      >
        <span class="code">{{ c.code }}</span>
        <span class="place">{{ place(c.code) ?? '–' }}</span>
      </button>
    </div>
    <p class="row">
      <Button
        :type="alike ? 'primary' : 'default'"
        :aria-pressed="alike"
        :disabled="!order.length || placed.length === codes.length"
        @click="alike = !alike"
        >The next is alike</Button
      >
      <Button :disabled="!order.length" @click="order = []">Put it anew</Button>
    </p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--clay-line);
  margin: 0 0 14px;
  padding: 8px 14px 12px;
}

legend {
  font: 600 17px var(--text);
  padding: 0 6px;
}

.codes {
  display: grid;
  gap: 8px;
  grid-template-columns: repeat(auto-fit, minmax(84px, 1fr));
}

.codes button {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: 4px;
  display: grid;
  gap: 2px;
  justify-items: center;
  min-height: 88px;
  padding: 8px;
}

.codes button.on {
  background: var(--cobalt);
  color: var(--on-cobalt);
}

.code {
  font: 600 26px var(--slab);
}

.place {
  font: 500 18px var(--text);
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0 0;
}
</style>
