<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, Select } from 'ant-design-vue'
import { reactive, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { isOwner, session } from '../../api/session'
import Looking from '../../parts/Looking.vue'

// Who may come in, and as what.
const client = useQueryClient()

const {
  data: people,
  isPending,
  error,
  refetch,
} = useQuery({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) })
const leaving = ref('') // who is asked about, by id
const person = reactive<Schemas['NewPerson']>({ login: '', name: '', password: '', role: 'maker' })
const add = useMutation({
  mutationFn: () => ask(api.POST('/api/people', { body: { ...person } })),
  onSuccess: () => {
    Object.assign(person, { login: '', name: '', password: '' })
    void client.invalidateQueries({ queryKey: ['people'] })
  },
})
const remove = useMutation({
  mutationFn: (id: string) => ask(api.DELETE('/api/people/{id}', { params: { path: { id } } })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['people'] }),
})
const change = useMutation({
  mutationFn: (v: { id: string; role: Schemas['Role'] }) =>
    ask(api.PATCH('/api/people/{id}', { params: { path: { id: v.id } }, body: { role: v.role } })),
  onSuccess: () => void client.invalidateQueries({ queryKey: ['people'] }),
})

const roles = [
  { value: 'owner', label: 'owner: decides' },
  { value: 'maker', label: 'maker: works' },
  { value: 'viewer', label: 'viewer: looks' },
]
</script>

<template>
  <h2>People</h2>
  <Looking :pending="isPending" :error="error" @again="refetch()" />
  <table class="rows">
    <tbody>
      <tr v-for="p in people ?? []" :key="p.id">
        <td>
          <strong>{{ p.name }}</strong>
          <div class="soft small">signs in as {{ p.login }}</div>
        </td>
        <td>
          <label v-if="isOwner && p.id !== session?.person.id">
            <span class="unseen">Role of {{ p.name }}</span>
            <Select
              :value="p.role"
              :options="roles"
              class="role"
              @change="(role) => change.mutate({ id: p.id, role: role as Schemas['Role'] })"
            />
          </label>
          <template v-else>{{ p.role }}</template>
        </td>
        <td class="right">
          <template v-if="isOwner && p.id !== session?.person.id">
            <button v-if="leaving !== p.id" class="plain do" type="button" @click="leaving = p.id">
              take access away
            </button>
            <template v-else>
              <button class="plain do bad" type="button" @click="remove.mutate(p.id)">
                {{ p.name }} is out from now on
              </button>
              <button class="plain do" type="button" @click="leaving = ''">no, stays</button>
            </template>
          </template>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="remove.error.value ?? change.error.value" class="bad" role="alert">
    {{ sentence(remove.error.value ?? change.error.value) }}
  </p>
  <form v-if="isOwner" class="field-column add" @submit.prevent="add.mutate()">
    <h3>Let someone in</h3>
    <Input v-model:value="person.name" placeholder="Name" aria-label="Name" />
    <Input v-model:value="person.login" placeholder="Sign-in name" aria-label="Sign-in name" />
    <Input
      v-model:value="person.password"
      type="password"
      placeholder="Password, at least 10 letters"
      aria-label="Password"
      autocomplete="new-password"
    />
    <label><span class="unseen">Role</span><Select v-model:value="person.role" :options="roles" /></label>
    <Button html-type="submit">Add</Button>
    <p v-if="add.isError.value" class="bad" role="alert">{{ sentence(add.error.value) }}</p>
  </form>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}

.add {
  margin-top: 16px;
}

.role {
  width: 150px;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
