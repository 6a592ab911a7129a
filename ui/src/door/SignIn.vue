<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { defineAsyncComponent, nextTick, reactive, ref } from 'vue'

import { ProblemError, type Schemas } from '../api/client'
import { sentence } from '../words'
import { makeWorkshop, setup, signIn } from '../api/session'

const FirstFigures = defineAsyncComponent(() => import('./FirstFigures.vue')) // few begin a workshop

const form = reactive({ workshop: '', name: '', login: '', password: '' })
// what every figure in it will be said in; all of it can be changed under Settings
const first = reactive({
  measures: 'us' as Schemas['Measures'],
  currency: 'EUR',
  hardness: '',
  time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone, // of whoever sets it up
})
const trouble = ref('')
const busy = ref(false)

// what the form is for: coming in, or beginning a workshop of one's own
const begins = ref(setup.value.needed && setup.value.can_begin)
const asksCode = ref(false)
const code = ref('')

async function attempt(what: () => Promise<void>) {
  busy.value = true
  trouble.value = ''
  try {
    await what()
  } catch (e) {
    asksCode.value ||= e instanceof ProblemError && e.problem.code === 'second-factor'
    trouble.value = sentence(e)
  } finally {
    busy.value = false
  }
}

function submit() {
  return attempt(() =>
    begins.value
      ? makeWorkshop({ ...form, ...first })
      : signIn({ login: form.login, password: form.password, ...(asksCode.value && { code: code.value }) }),
  )
}

const sheet = ref<HTMLFormElement>()

async function switchTo(own: boolean) {
  begins.value = own
  trouble.value = ''
  await nextTick()
  sheet.value?.querySelector('input')?.focus()
}
</script>

<template>
  <main class="door">
    <svg class="pot" viewBox="0 0 200 240" aria-hidden="true">
      <path
        d="M44 22h112l-6 34c34 30 34 130-8 164H58C16 186 16 86 50 56z"
        fill="var(--clay)"
        stroke="var(--ink)"
        stroke-width="3"
        stroke-linejoin="round"
      />
      <path d="M50 56h100" stroke="var(--ink)" stroke-width="2" />
      <path
        d="M34 120c20-22 34 16 56-4s40 18 76-2M40 150c26-14 40 12 62 0s34 10 58-2M100 96c-8-14 8-24 0-34"
        fill="none"
        stroke="var(--cobalt)"
        stroke-width="5"
        stroke-linecap="round"
      />
    </svg>
    <form ref="sheet" class="form" @submit.prevent="submit">
      <h1>Keen Crock</h1>
      <p class="soft">
        <template v-if="begins">
          {{ setup.needed ? 'Nothing is here yet. ' : '' }}Name your workshop and make your own account.
        </template>
        <template v-else-if="setup.needed">
          Nothing is here yet. The first workshop is begun on the machine Keen Crock runs on.
        </template>
        <template v-else>Sign in to your workshop.</template>
      </p>
      <label v-if="begins">
        <span class="field-label">Workshop</span>
        <Input v-model:value="form.workshop" name="workshop" size="large" required />
      </label>
      <label v-if="begins">
        <span class="field-label">Your name</span>
        <Input v-model:value="form.name" name="name" size="large" required />
      </label>
      <label>
        <span class="field-label">Sign-in name</span>
        <Input
          v-model:value="form.login"
          name="login"
          size="large"
          autocomplete="username"
          autofocus
          required
        />
      </label>
      <label>
        <span class="field-label">Password{{ begins ? ', at least 10 letters' : '' }}</span>
        <Input
          v-model:value="form.password"
          name="password"
          type="password"
          size="large"
          :autocomplete="begins ? 'new-password' : 'current-password'"
          required
        />
      </label>
      <label v-if="asksCode && !begins">
        <span class="field-label">Code of your second factor, or a recovery code</span>
        <Input
          v-model:value="code"
          name="code"
          size="large"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
        />
      </label>
      <FirstFigures v-if="begins" v-model="first" />
      <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
      <Button type="primary" html-type="submit" size="large" :loading="busy" block>
        {{ begins ? 'Open the workshop' : 'Sign in' }}
      </Button>
      <div v-if="setup.demo || setup.can_begin" class="else">
        <Button
          v-if="setup.demo && !begins"
          :disabled="busy"
          block
          @click="attempt(() => signIn(setup.demo!))"
        >
          Look around in the demo
        </Button>
        <Button v-if="setup.can_begin && !begins" :disabled="busy" block @click="switchTo(true)">
          Begin your own workshop
        </Button>
        <Button v-if="begins && !setup.needed" :disabled="busy" block @click="switchTo(false)">
          Back to signing in
        </Button>
        <p v-if="setup.demo && !begins" class="soft small">
          The demo is an invented workshop with eight months of work in it. It stands beside your own, and can
          be removed.
        </p>
      </div>
    </form>
  </main>
</template>

<style scoped>
.door {
  align-items: center;
  display: flex;
  gap: 72px;
  height: 100%;
  justify-content: center;
  padding: 24px;
}

.pot {
  height: 300px;
}

.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
  width: 320px;
}

.else {
  border-top: 1px solid var(--clay-line);
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding-top: 14px;
}

.form h1 {
  font-size: 40px;
}

.form p {
  margin: 0;
}

@media (max-width: 700px) {
  .pot {
    display: none;
  }
}
</style>
