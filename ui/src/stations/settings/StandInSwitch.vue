<script setup lang="ts">
import { onMounted, ref } from 'vue'

import { sentence } from '../../api/client'
import { canStandIn, endStandIn, letStandIn, lookForStandIn, standsIn } from '../../api/standIn'

const trouble = ref('')
onMounted(lookForStandIn)

async function change(e: Event) {
  trouble.value = ''
  try {
    await ((e.target as HTMLInputElement).checked ? letStandIn() : endStandIn())
  } catch (reason) {
    trouble.value = `This browser does not take that: ${sentence(reason)} It wants a certificate it trusts.`
    await lookForStandIn()
  }
}
</script>

<template>
  <label class="switch">
    <input type="checkbox" name="stand-in" :checked="standsIn" :disabled="!canStandIn" @change="change" />
    <span>
      Pages open in this browser while the server does not answer
      <span class="soft small">
        {{
          canStandIn
            ? 'with what was read last, marked as old. It lies on this device until you sign out.'
            : 'where the page came over TLS that the browser trusts, which it did not here.'
        }}
      </span>
    </span>
  </label>
  <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
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
  flex: none;
  height: 18px;
  transform: translateY(3px);
  width: 18px;
}
</style>
