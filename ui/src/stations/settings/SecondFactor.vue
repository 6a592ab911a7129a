<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { session } from '../../api/session'

// A second factor: a code of a phone besides the password. The secret is shown once, and
// counts when a first code of it was right.
const open = ref(false)
const password = ref('')
const code = ref('')
const factor = ref<Schemas['Factor']>()
const recovery = ref<string[]>([])

const begin = useMutation({
  mutationFn: () => ask(api.POST('/api/session/second-factor', { body: { password: password.value } })),
  onSuccess: (f) => {
    factor.value = f
    password.value = ''
  },
})
const confirm = useMutation({
  mutationFn: () => ask(api.PUT('/api/session/second-factor', { body: { code: code.value } })),
  onSuccess: (r) => {
    recovery.value = r.codes
    factor.value = undefined
    code.value = ''
    if (session.value) session.value.second_factor = true
  },
})
const end = useMutation({
  mutationFn: () => ask(api.POST('/api/session/second-factor/end', { body: { password: password.value } })),
  onSuccess: () => {
    password.value = ''
    recovery.value = []
    if (session.value) session.value.second_factor = false
  },
})
</script>

<template>
  <details class="factor" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>A second factor{{ session?.second_factor ? ': on' : '' }}</summary>
    <div v-if="!open" />
    <div v-else-if="recovery.length" class="field-column" role="status">
      <p>
        It is on. Write these down and keep them away from the phone: each opens the door once, should the
        phone be lost.
      </p>
      <ul class="codes">
        <li v-for="c in recovery" :key="c">{{ c }}</li>
      </ul>
      <Button @click="recovery = []">I have them</Button>
    </div>
    <form v-else-if="factor" class="field-column" @submit.prevent="confirm.mutate()">
      <p>Read this with an authenticator of yours, then type the code it shows.</p>
      <!-- eslint-disable-next-line vue/no-v-html -- a picture our own server drew of an address -->
      <div class="picture" v-html="factor.picture" />
      <p class="soft small">
        Or type it: <span class="secret">{{ factor.secret }}</span>
      </p>
      <Input
        v-model:value="code"
        name="factor-code"
        aria-label="Code"
        placeholder="123456"
        inputmode="numeric"
        autocomplete="one-time-code"
      />
      <Button
        html-type="submit"
        type="primary"
        :disabled="code.length < 6"
        :loading="confirm.isPending.value"
      >
        Switch it on
      </Button>
      <p v-if="confirm.error.value" class="bad" role="alert">{{ sentence(confirm.error.value) }}</p>
    </form>
    <form
      v-else
      class="field-column"
      @submit.prevent="session?.second_factor ? end.mutate() : begin.mutate()"
    >
      <p class="soft">
        {{
          session?.second_factor
            ? 'Signing in takes a code of your phone besides your password.'
            : 'With one, your password alone opens nothing: signing in takes a code of your phone too.'
        }}
      </p>
      <Input
        v-model:value="password"
        type="password"
        name="factor-password"
        placeholder="Your password"
        aria-label="Your password"
        autocomplete="current-password"
      />
      <Button
        html-type="submit"
        :disabled="!password"
        :loading="begin.isPending.value || end.isPending.value"
        :danger="session?.second_factor"
      >
        {{ session?.second_factor ? 'Go without it' : 'Begin' }}
      </Button>
      <p v-if="begin.error.value ?? end.error.value" class="bad" role="alert">
        {{ sentence(begin.error.value ?? end.error.value) }}
      </p>
    </form>
  </details>
</template>

<style scoped>
.factor {
  margin-bottom: 12px;
}

summary {
  color: var(--cobalt);
  cursor: pointer;
  margin-bottom: 8px;
}

.picture :deep(svg) {
  background: #fff;
  height: 180px;
  width: 180px;
}

.secret {
  overflow-wrap: anywhere;
}

.codes {
  columns: 2;
  font-variant-numeric: tabular-nums;
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
