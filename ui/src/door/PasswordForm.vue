<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { Button, Input } from 'ant-design-vue'
import { reactive, ref } from 'vue'
import { sentence } from '../words'

import { changePassword } from '../api/session'

// One's own password: the one there is, and the one to be.
const props = defineProps<{ opened?: boolean }>()
const open = ref(props.opened)
const change = reactive({ current: '', password: '' })
const keep = useMutation({
  mutationFn: () => changePassword({ ...change }),
  onSuccess: () => Object.assign(change, { current: '', password: '' }),
})
</script>

<template>
  <details class="password" :open="opened" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Change your password</summary>
    <form v-if="open" class="field-column" @submit.prevent="keep.mutate()">
      <Input
        v-model:value="change.current"
        type="password"
        name="current-password"
        placeholder="The one you have"
        aria-label="The password you have"
        autocomplete="current-password"
      />
      <Input
        v-model:value="change.password"
        type="password"
        name="new-password"
        placeholder="The new one, at least 10 letters"
        aria-label="The new password"
        autocomplete="new-password"
      />
      <Button
        html-type="submit"
        :loading="keep.isPending.value"
        :disabled="!change.current || !change.password"
      >
        Change it
      </Button>
      <p v-if="keep.error.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
      <p v-if="keep.isSuccess.value && !change.current" class="soft" role="status">
        It is changed. Everywhere else you are signed out.
      </p>
    </form>
  </details>
</template>

<style scoped>
.password {
  margin-bottom: 12px;
}

summary {
  color: var(--cobalt);
  cursor: pointer;
  margin-bottom: 8px;
}
</style>
