<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber } from 'ant-design-vue'
import { computed, nextTick, reactive, ref, watch } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import { day, sentence } from '../../words'
import { useChores } from './chores'

// What comes round: the machine, the drain, the scale.
const client = useQueryClient()
const props = defineProps<{ here: string }>() // the one that was asked for
const { data } = useChores()
const list = ref<HTMLElement>()
watch(
  [data, () => props.here],
  async () => {
    await nextTick()
    list.value?.querySelector('.here')?.scrollIntoView({ block: 'center' })
  },
  { immediate: true },
)
const again = () => void client.invalidateQueries({ queryKey: ['rack'] })
const form = reactive<{ title: string; every?: number }>({ title: '', every: 30 })
const add = useMutation({
  mutationFn: () =>
    ask(api.POST('/api/chores', { body: { title: form.title, every_days: form.every ?? 30 } })),
  onSuccess: () => {
    form.title = ''
    again()
  },
})
const done = useMutation({
  mutationFn: (id: string) => ask(api.POST('/api/chores/{id}', { params: { path: { id } } })),
  onSuccess: again,
})
const gone = ref<Schemas['Chore']>()
const remove = useMutation({
  mutationFn: (c: Schemas['Chore']) =>
    ask(api.DELETE('/api/chores/{id}', { params: { path: { id: c.id } } })),
  onSuccess: (_, c) => {
    gone.value = c
    again()
  },
})
const bringBack = useMutation({
  mutationFn: (c: Schemas['Chore']) =>
    ask(
      api.POST('/api/chores', {
        body: { title: c.title, every_days: c.every_days, card: c.card ?? '', first: c.next },
      }),
    ),
  onSuccess: () => {
    gone.value = undefined
    again()
  },
})
const unfill = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/bottles/{id}', { params: { path: { id } } })),
  onSuccess: () => {
    again()
    void client.invalidateQueries({ queryKey: ['pantry'] })
  },
})
const failed = computed(() => [add, done, remove, unfill].map((m) => m.error.value).find(Boolean))
const tones = { late: 'watch', today: 'good', later: '' } as const
</script>

<template>
  <section ref="list" class="chores">
    <h2>Comes round</h2>
    <table v-if="data?.length" class="rows">
      <tbody>
        <tr v-for="c in data" :key="c.id" :class="{ here: c.id === here }">
          <td>{{ c.title }}</td>
          <td class="soft">{{ c.every_days ? `every ${c.every_days} days` : 'once' }}</td>
          <td>
            <span v-if="c.state !== 'later'" class="mark" :class="tones[c.state]">{{ c.state }}</span>
            {{ c.state === 'today' ? '' : day(c.next) }}
          </td>
          <td class="right">
            <template v-if="canMake">
              <Button size="small" @click="done.mutate(c.id)">{{ c.bottle ? 'Emptied' : 'Done' }}</Button>
              <button v-if="c.bottle" type="button" class="plain do small" @click="unfill.mutate(c.id)">
                not filled after all
              </button>
              <button v-else type="button" class="plain do small" @click="remove.mutate(c)">no more</button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="gone" role="status">
      “{{ gone.title }}” comes round no more.
      <button type="button" class="plain do" @click="bringBack.mutate(gone)">Bring back</button>
    </p>
    <form v-if="canMake" class="new" @submit.prevent="add.mutate()">
      <label>
        <span class="field-label">What comes round</span>
        <Input
          v-model:value="form.title"
          name="chore"
          placeholder="rinse the washing machine"
          :maxlength="120"
        />
      </label>
      <label>
        <span class="field-label">every so many days</span>
        <InputNumber v-model:value="form.every" :min="1" :max="3650" name="chore-every" />
      </label>
      <Button html-type="submit" :disabled="!form.title.trim()" :loading="add.isPending.value"
        >Put it in</Button
      >
    </form>
    <p v-if="failed" class="bad" role="alert">{{ sentence(failed) }}</p>
  </section>
</template>

<style scoped>
.chores {
  margin-top: 26px;
  max-width: 760px;
}

.new {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 8px;
}

.do {
  color: var(--cobalt);
  margin-left: 10px;
  min-height: 24px;
  text-decoration: underline;
}

.here td {
  background: var(--cobalt-wash);
}
</style>
