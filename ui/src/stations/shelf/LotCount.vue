<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'

import { grams } from '../../words'

// What is really in a bag, put on the scale: the difference is kept as a
// correction with its reason.
defineProps<{ onPaperG: number }>()
const emit = defineEmits<{ count: [grams: number, reason: string] }>()

const counted = ref('')
const reason = ref('')

function keep() {
  const g = Number(counted.value.replace(',', '.'))
  if (counted.value.trim() && Number.isFinite(g) && g >= 0) emit('count', g, reason.value.trim() || 'counted')
}
</script>

<template>
  <form class="count small" @submit.prevent="keep">
    <label>
      <span class="field-label">Grams there (of {{ grams(onPaperG) }})</span>
      <input v-model="counted" class="plain-field" name="counted" inputmode="decimal" autofocus />
    </label>
    <label>
      <span class="field-label">because</span>
      <input
        v-model="reason"
        class="plain-field"
        name="counted-reason"
        placeholder="counted"
        maxlength="200"
      />
    </label>
    <Button html-type="submit" size="small">Keep</Button>
  </form>
</template>

<style scoped>
.count {
  align-items: end;
  display: grid;
  gap: 8px;
  grid-template-columns: 1.2fr 1fr auto;
  margin-top: 6px;
}
</style>
