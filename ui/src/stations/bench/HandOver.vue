<script setup lang="ts">
import { ref } from 'vue'

import type { Of } from '../../api/batch'

// Gives a batch to a colleague in the middle of it.
const props = defineProps<{ of: Of }>()
const emit = defineEmits<{ done: [] }>()
const to = ref('')
function hand() {
  if (to.value.trim())
    props.of.act.mutate({ kind: 'handed-over', text: to.value.trim() }, { onSuccess: () => emit('done') })
}
</script>

<template>
  <form class="hand" @submit.prevent="hand">
    <label>
      <span class="field-label">to whom</span>
      <input v-model="to" name="hand-over" maxlength="80" />
    </label>
    <button class="big-do" type="submit" :disabled="!to.trim()">Hand it over</button>
  </form>
</template>

<style scoped>
.hand {
  align-items: end;
  display: flex;
  gap: 10px;
}

input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 19px var(--slab);
  height: 56px;
  padding: 0 12px;
}
</style>
