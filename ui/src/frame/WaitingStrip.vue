<script setup lang="ts">
import { nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Schemas } from '../api/client'
import { useWaiting } from '../api/queries'
import { useKeys } from '../parts/useKeys'
import WaitingNote from './WaitingNote.vue'

// What is waiting now, the most pressing first: as many as the strip has room
// for, and behind a button the whole list.
type Note = Schemas['WaitingNote']

const router = useRouter()
const { data: waiting, error } = useWaiting()

const row = ref<HTMLElement>()
const fit = ref(Infinity)
const open = ref(false)

/** Counts the notes on the first line; the others wrap out of sight. */
function measure() {
  const notes = [...(row.value?.children ?? [])] as HTMLElement[]
  const top = notes[0]?.offsetTop ?? 0
  fit.value = notes.filter((n) => n.offsetTop === top).length
}
const observer = new ResizeObserver(measure)
const strip = ref<HTMLElement>()
function elsewhere(e: Event) {
  if (!strip.value?.contains(e.target as Node)) open.value = false
}
onMounted(() => {
  if (row.value) observer.observe(row.value)
  window.addEventListener('pointerdown', elsewhere)
})
onBeforeUnmount(() => {
  observer.disconnect()
  window.removeEventListener('pointerdown', elsewhere)
})
useKeys([], (e) => {
  if (e.key === 'Escape') open.value = false
})
watch(waiting, () => void nextTick(measure))

function goTo(note: Note) {
  open.value = false
  void router.push(`/${note.station}/${note.id}`)
}
</script>

<template>
  <div ref="strip" class="waiting">
    <ul ref="row" class="row" aria-label="Waiting now">
      <li v-for="(note, i) in waiting ?? []" :key="i">
        <WaitingNote :note="note" :tabindex="i < fit ? 0 : -1" @go="goTo(note)" />
      </li>
      <li v-if="error && !waiting" class="soft">What waits cannot be told at the moment.</li>
      <li v-if="waiting && waiting.length === 0" class="soft">Nothing is waiting.</li>
    </ul>
    <button
      v-if="waiting && waiting.length > fit"
      class="plain more"
      type="button"
      :aria-expanded="open"
      @click="open = !open"
    >
      and {{ waiting.length - fit }} more
    </button>
    <ul v-if="open" class="all" aria-label="All that is waiting">
      <li v-for="(note, i) in waiting ?? []" :key="i">
        <WaitingNote :note="note" @go="goTo(note)" />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.waiting {
  align-items: center;
  display: flex;
  flex: 1;
  gap: 14px;
  min-width: 0;
  position: relative;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.row {
  display: flex;
  flex: 0 1 auto;
  flex-wrap: wrap;
  gap: 4px 18px;
  height: 22px;
  min-width: 0;
  overflow: hidden;
}

.all {
  background: var(--slip-raised);
  border: 1px solid var(--clay);
  border-radius: var(--corner);
  max-height: 70vh;
  overflow: auto;
  padding: 8px 16px;
  position: absolute;
  right: 0;
  top: 34px;
  z-index: 30;
}

.all li {
  line-height: 32px;
}

.row,
.more {
  font-size: 13px;
  line-height: 22px;
  white-space: nowrap;
}

.more {
  color: var(--cobalt);
}

.more:hover {
  text-decoration: underline;
}
</style>
