<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { stations } from '../stations'
import type { Place } from '../stations/station'

const emit = defineEmits<{ leave: [] }>()
const router = useRouter()
const findable = stations.flatMap((s) => (s.find ? [s.find()] : []))

const words = ref('')
const chosen = ref(0)
const box = ref<HTMLInputElement>()
onMounted(() => nextTick(() => box.value?.focus()))

const all = computed<Place[]>(() => [
  ...stations.map((s) => ({ text: s.title, kind: s.does, to: `/${s.name}` })),
  ...stations.flatMap((s) => s.acts ?? []),
  ...findable.flatMap((places) => places.value),
])

const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return all.value
    .filter((f) => parts.every((p) => `${f.text} ${f.kind}`.toLowerCase().includes(p)))
    .slice(0, 12)
})

watch(words, () => (chosen.value = 0))

function move(by: number) {
  const n = found.value.length
  if (n) chosen.value = (chosen.value + by + n) % n
}

function go(f: Place | undefined) {
  if (!f) return
  emit('leave')
  void router.push(f.to)
}
</script>

<template>
  <div class="veil" @click.self="$emit('leave')">
    <div class="box" role="dialog" aria-label="Find or do">
      <input
        ref="box"
        v-model="words"
        placeholder="A formula, a material, a batch, or what to do"
        aria-label="Find or do"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="go(found[chosen])"
        @keydown.esc.stop="$emit('leave')"
      />
      <ul>
        <li v-for="(f, i) in found" :key="f.to + f.text">
          <button class="plain" type="button" :class="{ chosen: i === chosen }" @click="go(f)">
            <strong>{{ f.text }}</strong> <span class="soft">{{ f.kind }}</span>
          </button>
        </li>
        <li v-if="found.length === 0" class="soft none">Nothing by that name.</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.veil {
  background: rgb(43 38 34 / 28%);
  inset: 0;
  position: fixed;
  z-index: 40;
}

.box {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  margin: 9vh auto 0;
  max-width: 560px;
  overflow: hidden;
}

input {
  background: none;
  border: 0;
  border-bottom: 1px solid var(--clay-line);
  color: inherit;
  font: 19px var(--slab);
  outline: 0;
  padding: 14px 18px;
  width: 100%;
}

ul {
  list-style: none;
  margin: 0;
  padding: 6px 0;
}

li button {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 7px 18px;
  width: 100%;
}

li button.chosen,
li button:hover {
  background: var(--cobalt-wash);
}

.none {
  padding: 8px 18px;
}
</style>
