<script setup lang="ts">
import { InputNumber } from 'ant-design-vue'

// So many of each good, on a phone at the stall: what goes out, and what comes back.
defineProps<{
  title: string
  /** What leaving it undone is called. */
  later: string
  goods: { formula: string; name: string; says: string; most: number }[]
  /** What the fields are called by. */
  name: string
}>()
defineEmits<{ leave: [] }>()
const counts = defineModel<Record<string, number | undefined>>({ required: true })
</script>

<template>
  <header>
    <h2>{{ title }}</h2>
    <button class="plain close" type="button" @click="$emit('leave')">{{ later }}</button>
  </header>
  <slot />
  <ul>
    <li v-for="g in goods" :key="g.formula">
      <label>
        <span class="name"
          >{{ g.name }} <span class="soft small">{{ g.says }}</span></span
        >
        <InputNumber
          v-model:value="counts[g.formula]"
          :min="0"
          :max="g.most"
          :name="`${name}-${g.name}`"
          size="large"
          inputmode="numeric"
        />
      </label>
    </li>
  </ul>
</template>

<style scoped>
header {
  align-items: baseline;
  display: flex;
  justify-content: space-between;
}

.close {
  color: var(--cobalt);
  padding: 6px;
}

ul {
  list-style: none;
  margin: 12px 0;
  padding: 0;
}

li label {
  align-items: center;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 6px 0;
}

.name {
  font: 600 17px var(--slab);
}
</style>
