<script setup lang="ts">
// Detail opens beside what it belongs to, never over it.
defineProps<{ title: string }>()
defineEmits<{ leave: [] }>()
</script>

<template>
  <aside class="panel" :aria-label="title" @keydown.esc="$emit('leave')">
    <header>
      <h2>{{ title }}</h2>
      <button class="plain close" type="button" title="Close (Esc)" @click="$emit('leave')">close</button>
    </header>
    <slot />
  </aside>
</template>

<style scoped>
.panel {
  background: var(--slip-raised);
  border-left: 1px solid var(--clay-line);
  flex: 0 0 420px;
  overflow: auto;
  padding: 18px 20px 40px;
}

header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
  margin-bottom: 8px;
}

@media (max-width: 700px) {
  .panel {
    border-bottom: 1px solid var(--clay-line);
    border-left: 0;
    flex: none;
  }
}

.close {
  color: var(--cobalt);
  padding: 6px;
}
</style>
