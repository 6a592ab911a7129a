<script setup lang="ts">
import type { Schemas } from '../api/client'
import { fromNow } from '../words'

// One thing that waits, with its sign; pressed, it leads there.
defineProps<{ note: Schemas['WaitingNote'] }>()
defineEmits<{ go: [] }>()

const tones = { good: '●', watch: '▲', stop: '■' } as const
</script>

<template>
  <button class="plain note" type="button" @click="$emit('go')">
    <span :class="note.tone" aria-hidden="true">{{ tones[note.tone] }}</span> {{ note.text
    }}{{ note.at ? ` ${fromNow(note.at)}` : '' }}
  </button>
</template>

<style scoped>
.note {
  font-size: 13px;
  line-height: inherit;
  white-space: nowrap;
}

.note:hover {
  text-decoration: underline;
}

.good {
  color: var(--celadon);
}

.watch {
  color: var(--ochre);
}

.stop {
  color: var(--oxblood);
}
</style>
