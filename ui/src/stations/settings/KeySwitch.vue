<script setup lang="ts">
import { singleKeysOn } from '../../parts/useKeys'
</script>

<template>
  <label class="switch">
    <input v-model="singleKeysOn" type="checkbox" name="single-keys" />
    <span>
      Single keys act in this browser
      <span class="soft small">such as Space at the bench. Switched off, only keys with Ctrl do.</span>
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

.switch .small {
  display: block;
}

input {
  height: 18px;
  transform: translateY(3px);
  width: 18px;
}
</style>
