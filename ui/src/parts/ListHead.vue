<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'

import { counted } from '../words'
import type { Format } from './table'
import TakeAlong from './TakeAlong.vue'

// What stands over a list that can grow: words to find in it, the choices it is narrowed
// by (the default slot), how many are shown of how many, and what can be done with them.
defineProps<{
  /** what is listed, one of it */
  what: string
  total: number
  shown: number
  placeholder: string
  /** whether there are more that have not been read */
  more?: boolean
  /** whether the rest of it is still being read */
  finding?: boolean
  /** whether it is printed as it stands */
  printed?: boolean
}>()
const wanted = defineModel<string>({ required: true })
defineEmits<{ all: []; take: [as: Format] }>()

const print = () => window.print()
</script>

<template>
  <div class="sift no-print" role="search">
    <Input
      v-model:value="wanted"
      type="search"
      :name="`find-${what}`"
      :placeholder="placeholder"
      :aria-label="`Find a ${what}`"
      allow-clear
      class="find"
    />
    <slot />
    <span class="soft" role="status">
      <template v-if="finding">Reading the rest. </template>
      {{ shown === total ? counted(total, what) : `${shown} of ${counted(total, what)}`
      }}{{ more && !finding ? ', and older ones' : '' }}
      <button v-if="shown !== total" type="button" class="plain do" @click="$emit('all')">show all</button>
    </span>
    <span class="spring" />
    <slot name="acts" />
    <TakeAlong @take="$emit('take', $event)">
      <Button v-if="printed" @click="print">Print</Button>
    </TakeAlong>
  </div>
</template>

<style scoped>
.sift {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  margin-bottom: 16px;
}

.find {
  width: 240px;
}

.do {
  color: var(--cobalt);
  cursor: pointer;
  text-decoration: underline;
}

@media (max-width: 480px) {
  .find {
    flex: 1 1 100%;
  }
}
</style>
