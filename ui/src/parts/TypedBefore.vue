<script setup lang="ts">
// Said where a form holds what was typed before.
defineProps<{ back: boolean }>()
defineEmits<{ empty: [] }>()
</script>

<template>
  <p v-if="back" class="small soft" role="status">
    What you had typed is here again.
    <button class="plain do" type="button" @click="$emit('empty')">Empty it</button>
  </p>
</template>
