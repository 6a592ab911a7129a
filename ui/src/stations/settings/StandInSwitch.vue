<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { sentence } from '../../words'

import { canStandIn, endStandIn, letStandIn, lookForStandIn, standsIn } from '../../api/standIn'
import SwitchLine from '../../parts/SwitchLine.vue'

const trouble = ref('')
onMounted(lookForStandIn)

const on = computed({ get: () => standsIn.value, set: (wanted) => void change(wanted) })

async function change(wanted: boolean) {
  trouble.value = ''
  try {
    await (wanted ? letStandIn() : endStandIn())
  } catch (reason) {
    trouble.value = `This browser does not take that: ${sentence(reason)} It wants a certificate it trusts.`
    await lookForStandIn()
  }
}
</script>

<template>
  <SwitchLine v-model="on" name="stand-in" :disabled="!canStandIn">
    Pages open in this browser while the server does not answer
    <template #more>
      {{
        canStandIn
          ? 'with what was read last, marked as old. It lies on this device until you sign out.'
          : 'where the page came over TLS that the browser trusts, which it did not here.'
      }}
    </template>
  </SwitchLine>
  <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
</template>
