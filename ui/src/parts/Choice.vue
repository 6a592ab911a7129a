<script setup lang="ts" generic="V extends string | number">
import { Select } from 'ant-design-vue'
import { computed } from 'vue'

// One of several. Where there are many, the list is narrowed as one types.
const props = defineProps<{
  label: string
  options: { value: V; label: string; disabled?: boolean }[]
  /** Heard by those who listen, and not shown: what it stands beside says it. */
  unseen?: boolean
  disabled?: boolean
  tall?: boolean
}>()
const chosen = defineModel<V>({ required: true })
const emit = defineEmits<{ chosen: [V] }>()

const MANY = 8
const many = computed(() => props.options.length > MANY)

function choose(v: unknown) {
  chosen.value = v as V
  emit('chosen', v as V)
}
</script>

<template>
  <label class="choice" :class="{ tall }">
    <span :class="unseen ? 'unseen' : 'field-label'">{{ label }}</span>
    <Select
      :value="chosen"
      :options="options"
      :aria-label="label"
      :disabled="disabled"
      :show-search="many"
      option-filter-prop="label"
      :size="tall ? 'large' : 'middle'"
      @update:value="choose"
    />
  </label>
</template>

<style scoped>
.choice {
  display: block;
  min-width: 0;
}

.choice :deep(.ant-select) {
  width: 100%;
}

/* at the bench, beside fields as high */
.tall :deep(.ant-select-selector) {
  align-items: center;
  font: 20px var(--slab);
  height: 56px;
}
</style>
