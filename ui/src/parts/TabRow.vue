<script setup lang="ts" generic="Id extends string">
// A row of tabs. One of them is in the way of the Tab key; the arrow keys, Home and End go
// from one to the next, and open it.
const props = defineProps<{ tabs: readonly { id: Id; name: string }[]; label: string }>()
const open = defineModel<Id>({ required: true })

function goTo(e: KeyboardEvent, to: number) {
  const at = (to + props.tabs.length) % props.tabs.length
  const tab = props.tabs[at]
  if (!tab) return
  e.preventDefault()
  open.value = tab.id
  const row = (e.currentTarget as HTMLElement).parentElement
  row?.querySelectorAll<HTMLElement>('[role=tab]')[at]?.focus()
}
</script>

<template>
  <div class="tabs" role="tablist" :aria-label="label">
    <button
      v-for="(t, i) in tabs"
      :key="t.id"
      class="plain"
      role="tab"
      type="button"
      :aria-selected="open === t.id"
      :tabindex="open === t.id ? 0 : -1"
      @click="open = t.id"
      @keydown.right="goTo($event, i + 1)"
      @keydown.left="goTo($event, i - 1)"
      @keydown.home="goTo($event, 0)"
      @keydown.end="goTo($event, -1)"
    >
      {{ t.name }}
    </button>
  </div>
</template>

<style scoped>
.tabs {
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}

button {
  border-bottom: 3px solid transparent;
  color: var(--ink-soft);
  font-family: var(--slab);
  font-size: 17px;
  min-height: 36px;
  padding: 4px 2px;
}

[aria-selected='true'] {
  border-bottom-color: var(--cobalt);
  color: var(--ink);
}
</style>
