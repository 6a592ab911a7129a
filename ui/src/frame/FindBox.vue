<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { stations } from '../registry'
import type { Place } from '../registry'
import CodeReader from '../parts/CodeReader.vue'
import { canReadCodes, jarOf } from '../parts/codes'

const emit = defineEmits<{ leave: [] }>()
const router = useRouter()
const words = ref('')
const findable = stations.flatMap((s) => (s.find ? [s.find(words)] : []))
const scanning = ref(false)

const chosen = ref(0)
const box = ref<HTMLInputElement>()
// a dialog of the browser's own: it holds the focus, and gives it back when it closes
const dialog = ref<HTMLDialogElement>()
onMounted(() => {
  dialog.value?.showModal()
  box.value?.focus()
})
const leave = () => dialog.value?.close()

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

/** A code was read: that of a jar leads there, any other is looked for. */
function scanned(text: string) {
  scanning.value = false
  const jar = jarOf(text)
  if (jar) return go({ text, kind: 'a jar', to: jar })
  words.value = text.slice(0, 60)
  box.value?.focus()
}

function go(f: Place | undefined) {
  if (!f) return
  leave()
  void router.push(f.to)
}
</script>

<template>
  <dialog ref="dialog" class="box" aria-label="Find or do" @close="emit('leave')" @click.self="leave">
    <input
      ref="box"
      v-model="words"
      role="combobox"
      aria-expanded="true"
      aria-controls="found"
      aria-autocomplete="list"
      :aria-activedescendant="found.length ? `found-${chosen}` : undefined"
      placeholder="A formula, a material, a batch, or what to do"
      aria-label="Find or do"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="go(found[chosen])"
    />
    <p v-if="canReadCodes" class="scan">
      <Button class="tall" @click="scanning = !scanning">
        {{ scanning ? 'Close the camera' : 'Scan a code' }}
      </Button>
      <span class="soft small">of a jar, or on a bag</span>
    </p>
    <CodeReader v-if="scanning" @read="scanned" />
    <ul id="found" role="listbox" aria-label="Found">
      <li
        v-for="(f, i) in found"
        :id="`found-${i}`"
        :key="f.to + f.text"
        role="option"
        :aria-selected="i === chosen"
        :class="{ chosen: i === chosen }"
        @click="go(f)"
      >
        <strong>{{ f.text }}</strong> <span class="soft">{{ f.kind }}</span>
      </li>
    </ul>
    <p v-if="found.length === 0" class="soft none" role="status">Nothing by that name.</p>
  </dialog>
</template>

<style scoped>
.box::backdrop {
  background: rgb(43 38 34 / 28%);
}

.box {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  color: inherit;
  margin: 9vh auto 0;
  max-width: 560px;
  overflow: hidden;
  padding: 0;
  width: 100%;
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

li {
  cursor: pointer;
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 7px 18px;
}

li.chosen,
li:hover {
  background: var(--cobalt-wash);
}

.scan {
  align-items: center;
  display: flex;
  gap: 10px;
  margin: 8px 18px 0;
}

.tall {
  min-height: 44px;
}

.none {
  padding: 8px 18px;
}
</style>
