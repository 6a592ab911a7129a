<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'

import { api, ask } from '../../api/client'
import GoodSheet from '../../parts/GoodSheet.vue'
import Looking from '../../parts/Looking.vue'

// The page a customer gets with a jar.
const props = defineProps<{ batch: string }>()
const { data, error, isPending, refetch } = useQuery({
  queryKey: ['pantry', 'sheet', props.batch],
  queryFn: () => ask(api.GET('/api/pantry/{id}/sheet', { params: { path: { id: props.batch } } })),
})
function print() {
  window.print()
}
</script>

<template>
  <div>
    <p class="no-print"><Button type="primary" :disabled="!data" @click="print()">Print the page</Button></p>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <GoodSheet v-if="data" :page="data" />
  </div>
</template>
