<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { ConfigProvider } from 'ant-design-vue'
import { defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { RouterView, useRoute } from 'vue-router'

import { ProblemError } from './api/client'
import { sentence } from './words'
import { followChanges } from './api/live'
import { ready, restore, session, wasIn } from './api/session'
import { forgetOld } from './api/unsent'
import SignIn from './door/SignIn.vue'
import { makeOld } from './registry'
import { antTheme } from './styles/theme'

// The door comes with the page: it is what a stranger sees first. What is behind it is fetched
// while it is asked who is here, where somebody was in last.
const frame = () => import('./frame/Frame.vue')
const Frame = defineAsyncComponent(frame)
const ChangeFirst = defineAsyncComponent(() => import('./door/ChangeFirst.vue'))
if (wasIn()) void frame()

const client = useQueryClient()
const route = useRoute()
const trouble = ref('')

const again = 1500 // ms

/** Finds out who is signed in, however long the server or its database takes. */
async function begin() {
  try {
    await restore()
    trouble.value = ''
  } catch (e) {
    trouble.value = sentence(e)
    if (e instanceof ProblemError && (e.problem.status === 0 || e.problem.status === 503))
      setTimeout(begin, again)
  }
}
onMounted(begin)
onMounted(forgetOld)

let unfollow = () => {}
watch(
  () => session.value?.person.id,
  (person, before) => {
    unfollow()
    unfollow = () => {}
    if (before) client.clear() // nothing of one person is shown to another; what anyone may read goes on
    if (person) unfollow = followChanges(client, (topic) => makeOld(client, topic))
  },
)
</script>

<template>
  <ConfigProvider :theme="antTheme">
    <RouterView v-if="route.meta.public" />
    <p v-else-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <template v-else-if="ready">
      <ChangeFirst v-if="session?.must_change_password" />
      <Frame v-else-if="session"><RouterView /></Frame>
      <SignIn v-else />
    </template>
  </ConfigProvider>
</template>

<style scoped>
.trouble {
  margin: 15vh auto;
  max-width: 30em;
}
</style>
