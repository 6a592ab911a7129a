<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, ask } from '../../api/client'
import { isOwner } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { moment } from '../../words'
import DemoEnd from './DemoEnd.vue'

// How other machines come here, and how what is here is kept.
const {
  data: reach,
  isPending,
  error,
  refetch,
} = useQuery({ queryKey: ['reach'], queryFn: () => ask(api.GET('/api/reach')) })
const first = computed(() => reach.value?.addresses[0])
const others = computed(() => reach.value?.addresses.slice(1) ?? [])
</script>

<template>
  <section class="below">
    <h2>From a phone</h2>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <template v-if="reach">
      <div v-if="first" class="phone">
        <!-- eslint-disable-next-line vue/no-v-html -- a picture our own server drew of an address -->
        <div class="picture" v-html="first.picture" />
        <div>
          <p>
            Read this with the phone, or open <strong class="address">{{ first.url }}</strong>
          </p>
          <p v-for="a in others" :key="a.url" class="soft small address">{{ a.url }}</p>
        </div>
      </div>
      <p v-else class="soft">
        Keen Crock can be reached from its own machine alone. Started with
        <code>--host 0.0.0.0 --own-tls</code> it is there for phones and tablets in your network too.
      </p>
      <p v-if="reach.fingerprint" class="soft small">
        A browser asks once whether to trust the certificate. It is ours when its SHA-256 fingerprint reads
        <span class="address">{{ reach.fingerprint }}</span>
      </p>
    </template>
    <template v-if="isOwner">
      <hr class="hair" />
      <h2>What is kept</h2>
      <p v-if="reach?.backup_failed" class="bad" role="alert">
        The last backup could not be taken: {{ reach.backup_failed }}
      </p>
      <p v-else-if="reach?.last_backup">The last backup was taken {{ moment(reach.last_backup) }}.</p>
      <p v-else-if="reach" class="soft">
        {{
          reach.nightly
            ? 'No backup was taken yet: one is each night.'
            : 'No backups are taken each night here.'
        }}
      </p>
      <p>
        <a href="/api/export" download>Take the workshop along</a>
        <span class="soft small"
          >: everything in it as CSV files in one archive, without passwords, to keep or to move to another
          server.</span
        >
      </p>
      <DemoEnd />
    </template>
  </section>
</template>

<style scoped>
.below {
  margin-top: 30px;
}

.phone {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
}

.picture :deep(svg) {
  background: #fff;
  display: block;
  height: 148px;
  width: 148px;
}

.address {
  overflow-wrap: anywhere;
}
</style>
