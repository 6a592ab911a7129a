<script setup lang="ts">
import { nextTick } from 'vue'

// Something that is on or off, with what it does in the line below. It shows what is, not
// what was asked for, which may take a while or be refused.
defineProps<{ name: string; disabled?: boolean }>()
const on = defineModel<boolean>({ required: true })

function ask(e: Event) {
  const box = e.target as HTMLInputElement
  on.value = box.checked
  void nextTick(() => (box.checked = on.value))
}
</script>

<template>
  <label class="switch">
    <input type="checkbox" :name="name" :checked="on" :disabled="disabled" @change="ask" />
    <span>
      <slot />
      <span class="soft small"><slot name="more" /></span>
    </span>
  </label>
</template>

<style scoped>
.switch {
  align-items: baseline;
  cursor: pointer;
  display: flex;
  gap: 10px;
  margin-bottom: 16px;
}

.small {
  display: block;
}

input {
  flex: none;
  height: 18px;
  transform: translateY(3px);
  width: 18px;
}
</style>
