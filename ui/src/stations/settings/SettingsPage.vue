<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { reactive, ref } from 'vue'

import { api, ask, sentence, type Schemas } from '../../api/client'
import { isOwner, session, signOut } from '../../api/session'

const client = useQueryClient()
const form = reactive({ ...(session.value?.workshop as Schemas['Workshop']) })
const saved = ref('')

const save = useMutation({
  mutationFn: () => {
    const body = { ...form }
    delete body.hardness_class
    // a field that was emptied counts as usual
    for (const f of ['drops_per_ml', 'scoop_ml', 'laundry_water_l', 'dishes_water_l'] as const) body[f] ||= 0
    return ask(api.PUT('/api/workshop', { body }))
  },
  onSuccess: (w) => {
    Object.assign(form, w)
    if (session.value) session.value.workshop = w
    saved.value = 'Kept.'
    void client.invalidateQueries()
  },
})

const { data: people } = useQuery({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) })
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

const measures = [
  { value: 'us', label: 'US: cup 237 ml, tbsp 14.8 ml' },
  { value: 'metric', label: 'Metric: cup 250 ml, tbsp 15 ml' },
  { value: 'imperial', label: 'Imperial: cup 284 ml, tbsp 15 ml' },
  { value: 'australian', label: 'Australian: cup 250 ml, tbsp 20 ml' },
]
const roles = [
  { value: 'owner', label: 'owner: decides' },
  { value: 'maker', label: 'maker: works' },
  { value: 'viewer', label: 'viewer: looks' },
]
</script>

<template>
  <div class="settings">
    <h1>Settings</h1>
    <div class="columns">
      <form @submit.prevent="save.mutate()">
        <h2>Workshop</h2>
        <label
          ><span class="field-label">Name</span><Input v-model:value="form.name" :disabled="!isOwner"
        /></label>
        <label>
          <span class="field-label">Cups and spoons</span>
          <Select v-model:value="form.measures" :options="measures" :disabled="!isOwner" class="wide" />
        </label>
        <label>
          <span class="field-label"
            >Water hardness{{ form.hardness_class ? `: ${form.hardness_class}` : '' }}</span
          >
          <Input v-model:value="form.hardness" placeholder="268 mg/l, 15 °dH, 27 °fH" :disabled="!isOwner" />
        </label>
        <label>
          <span class="field-label">Currency</span>
          <Input v-model:value="form.currency" :maxlength="3" :disabled="!isOwner" />
        </label>
        <div class="pair">
          <label>
            <span class="field-label">The scale shows steps of</span>
            <InputNumber
              v-model:value="form.scale_step_g"
              :min="0.001"
              addon-after="g"
              :disabled="!isOwner"
            />
          </label>
          <label>
            <span class="field-label">and bears up to</span>
            <InputNumber
              v-model:value="form.scale_capacity_g"
              :min="10"
              addon-after="g"
              :disabled="!isOwner"
            />
          </label>
        </div>
        <div class="pair">
          <label>
            <span class="field-label">Your dropper, empty for usual</span>
            <InputNumber
              v-model:value="form.drops_per_ml"
              :min="0"
              addon-after="drops/ml"
              :disabled="!isOwner"
            />
          </label>
          <label>
            <span class="field-label">Your scoop, empty for usual</span>
            <InputNumber v-model:value="form.scoop_ml" :min="0" addon-after="ml" :disabled="!isOwner" />
          </label>
        </div>
        <div class="pair">
          <label>
            <span class="field-label">Water of one wash, else 20 l</span>
            <InputNumber
              v-model:value="form.laundry_water_l"
              :min="0"
              :max="500"
              addon-after="l"
              :disabled="!isOwner"
            />
          </label>
          <label>
            <span class="field-label">Water of the dishes, else 4 l</span>
            <InputNumber
              v-model:value="form.dishes_water_l"
              :min="0"
              :max="100"
              addon-after="l"
              :disabled="!isOwner"
            />
          </label>
        </div>
        <p v-if="save.isError.value" class="bad" role="alert">{{ sentence(save.error.value) }}</p>
        <Button v-if="isOwner" type="primary" html-type="submit">Keep</Button>
        <span class="soft" role="status"> {{ saved }}</span>
      </form>
      <section>
        <h2>People</h2>
        <table class="rows">
          <tbody>
            <tr v-for="p in people ?? []" :key="p.id">
              <td>
                <strong>{{ p.name }}</strong>
                <div class="soft small">signs in as {{ p.login }}</div>
              </td>
              <td>{{ p.role }}</td>
              <td class="right">
                <button
                  v-if="isOwner && p.id !== session?.person.id"
                  class="plain do"
                  type="button"
                  @click="remove.mutate(p.id)"
                >
                  take access away
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <form v-if="isOwner" class="add" @submit.prevent="add.mutate()">
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
          <label
            ><span class="unseen">Role</span><Select v-model:value="person.role" :options="roles"
          /></label>
          <Button html-type="submit">Add</Button>
          <p v-if="add.isError.value" class="bad" role="alert">{{ sentence(add.error.value) }}</p>
        </form>
        <hr class="hair" />
        <p>
          Signed in as <strong>{{ session?.person.name }}</strong>, {{ session?.person.role }}.
        </p>
        <div class="pair">
          <Button @click="signOut()">Sign out</Button>
          <Button @click="signOut(true)">Sign out everywhere</Button>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.settings {
  padding: 18px 24px 40px;
}

.columns {
  display: grid;
  gap: 60px;
  grid-template-columns: minmax(300px, 420px) minmax(300px, 480px);
  margin-top: 14px;
}

form,
.add {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.add {
  margin-top: 16px;
}

.pair {
  display: flex;
  gap: 12px;
}

.wide {
  width: 100%;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}

form > button,
.add > button {
  align-self: start;
}
</style>
