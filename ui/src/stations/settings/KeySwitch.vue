<script setup lang="ts">
import SwitchLine from '../../parts/SwitchLine.vue'
import { singleKeysOn } from '../../parts/useKeys'
</script>

<template>
  <SwitchLine v-model="singleKeysOn" name="single-keys">
    Single keys act in this browser
    <template #more>such as Space at the bench. Switched off, only keys with Ctrl do.</template>
  </SwitchLine>
</template>
