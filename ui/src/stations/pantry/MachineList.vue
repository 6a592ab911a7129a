<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'

// What goods are used in here, and the water it takes.
const client = useQueryClient()
const { data } = useQuery({
  queryKey: ['workshop', 'machines'],
  meta: { what: 'your machines' },
  queryFn: () => ask(api.GET('/api/machines')),
})
const list = ref<Schemas['Machine'][]>([])
watch(data, (d) => (list.value = (d ?? []).map((m) => ({ ...m }))), { immediate: true })

const uses = ['laundry', 'dishes', 'surfaces', 'toilet'].map((value) => ({ value, label: value }))
const save = useMutation({
  mutationFn: (machines: Schemas['Machine'][]) => ask(api.PUT('/api/machines', { body: machines })),
  onSuccess: () => void client.invalidateQueries(),
})
const add = () => list.value.push({ id: '', name: '', used_on: 'laundry', water_l: 20 })
</script>

<template>
  <details class="machines">
    <summary>Your machines</summary>
    <table class="rows">
      <thead>
        <tr>
          <th>machine</th>
          <th>for</th>
          <th>water, l</th>
          <th><span class="unseen">leave out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(m, i) in list" :key="i">
          <td><Input v-model:value="m.name" :aria-label="`Name of machine ${i + 1}`" :maxlength="60" /></td>
          <td>
            <Select v-model:value="m.used_on" :options="uses" :aria-label="`What machine ${i + 1} is for`" />
          </td>
          <td>
            <InputNumber
              v-model:value="m.water_l"
              :min="0.1"
              :max="500"
              :aria-label="`Water of machine ${i + 1}`"
            />
          </td>
          <td><button class="plain do" type="button" @click="list.splice(i, 1)">leave out</button></td>
        </tr>
      </tbody>
    </table>
    <p class="acts">
      <Button @click="add()">Another machine</Button>
      <Button type="primary" :loading="save.isPending.value" @click="save.mutate(list)">Keep these</Button>
      <Button @click="save.mutate([])">Back to the usual</Button>
    </p>
    <p v-if="save.error.value" class="bad" role="alert">{{ sentence(save.error.value) }}</p>
  </details>
</template>

<style scoped>
.machines {
  margin-top: 14px;
  max-width: 640px;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}

.do {
  color: var(--cobalt);
  min-height: 24px;
  text-decoration: underline;
}
</style>
