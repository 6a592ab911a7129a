<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'

// Detail opens beside what it belongs to, never over it; below it where the
// window is narrow, and is then brought into view.
const props = defineProps<{ title: string }>()
defineEmits<{ leave: [] }>()

const panel = ref<HTMLElement>()
const show = () => {
  if (matchMedia('(max-width: 900px)').matches) panel.value?.scrollIntoView()
}
onMounted(show)
watch(() => props.title, show, { flush: 'post' })
</script>

<template>
  <aside ref="panel" class="panel" :aria-label="title" @keydown.esc="$emit('leave')">
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

@media (max-width: 900px) {
  .panel {
    border-left: 0;
    border-top: 3px solid var(--clay-line);
    overflow: visible;
  }
}

.close {
  color: var(--cobalt);
  padding: 6px;
}
</style>
