<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'

import { api, ask } from '../../api/client'
import { isOwner } from '../../api/session'
import { day, sentence } from '../../words'

// The plan in one's own calendar: a file, or an address that only who has it can read, until it
// is withdrawn. The address is told once.
const client = useQueryClient()
const { data: calendar } = useQuery({
  queryKey: ['almanac', 'calendar'],
  queryFn: () => ask(api.GET('/api/calendar')),
})
const old = () => void client.invalidateQueries({ queryKey: ['almanac', 'calendar'] })
const make = useMutation({ mutationFn: () => ask(api.POST('/api/calendar')), onSuccess: old })
const withdraw = useMutation({
  mutationFn: () => ask(api.DELETE('/api/calendar')),
  onSuccess() {
    make.reset()
    old()
  },
})
const address = computed(() => (make.data.value?.path ? location.origin + make.data.value.path : ''))
</script>

<template>
  <details class="calendar no-print">
    <summary>In your own calendar</summary>
    <p><a href="/api/plan.ics" download="plan.ics">The plan as a calendar file</a>, as it stands now.</p>
    <template v-if="isOwner">
      <p v-if="address" role="status">
        Subscribe to this address; it is shown this once:
        <input
          class="plain-field"
          name="calendar-address"
          readonly
          :value="address"
          aria-label="Address of the calendar"
          @focus="($event.target as HTMLInputElement).select()"
        />
      </p>
      <p v-else-if="calendar?.there">
        There is an address since {{ day(calendar.made_at ?? '') }}. It cannot be shown again.
      </p>
      <p class="soft small">
        Whoever has the address reads what is made when and for whom, without prices, and without signing in.
      </p>
      <p class="acts">
        <Button :loading="make.isPending.value" @click="make.mutate()">{{
          calendar?.there ? 'Make another; this one ends' : 'Make an address'
        }}</Button>
        <Button v-if="calendar?.there" :loading="withdraw.isPending.value" @click="withdraw.mutate()"
          >Withdraw it</Button
        >
      </p>
      <p v-if="make.error.value" class="bad" role="alert">{{ sentence(make.error.value) }}</p>
      <p v-if="withdraw.error.value" class="bad" role="alert">{{ sentence(withdraw.error.value) }}</p>
    </template>
  </details>
</template>

<style scoped>
.calendar {
  margin-top: 10px;
  max-width: 560px;
}

summary {
  cursor: pointer;
  font: 600 16px var(--slab);
  padding: 6px 0;
}

input {
  display: block;
  margin-top: 6px;
  width: 100%;
}

.acts {
  display: flex;
  gap: 8px;
}
</style>
