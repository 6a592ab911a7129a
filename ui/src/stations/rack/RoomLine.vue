<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, ask } from '../../api/client'
import { canMake } from '../../api/session'
import { fromNow, sentence, typedNumber } from '../../words'

// How warm and damp the room is, with the last two days as a line, and a reading by
// hand.
const client = useQueryClient()
const { data: room } = useQuery({
  queryKey: ['rack', 'room'],
  meta: { what: 'the air of the room' },
  queryFn: () => ask(api.GET('/api/room')),
  refetchInterval: 600_000,
})
const noting = ref(false)
const celsius = ref('')
const humidity = ref('')
const ready = computed(
  () => typedNumber(celsius.value) !== undefined && typedNumber(humidity.value) !== undefined,
)
const note = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/room', {
        body: { celsius: typedNumber(celsius.value) ?? 0, humidity: typedNumber(humidity.value) ?? 0 },
      }),
    ),
  onSuccess: () => {
    noting.value = false
    celsius.value = humidity.value = ''
    void client.invalidateQueries({ queryKey: ['rack'] })
  },
})

/** The damp of two days, from 20 to 90 %. */
const line = computed(() => {
  const all = room.value?.readings ?? []
  const first = all[0]
  const last = all.at(-1)
  if (!first || !last || all.length < 3) return ''
  const t = (at: string) => new Date(at).getTime()
  const span = t(last.at) - t(first.at) || 1
  return all
    .map((r, i) => {
      const x = (100 * (t(r.at) - t(first.at))) / span
      const y = 18 - (16 * (Math.min(90, Math.max(20, r.humidity)) - 20)) / 70
      return `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`
    })
    .join('')
})
/** What the line says, in words. */
const damp = computed(() => {
  const all = (room.value?.readings ?? []).map((r) => Math.round(r.humidity))
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return low === high ? `${low} % for two days` : `${low} to ${high} % in two days`
})
</script>

<template>
  <div class="room">
    <span v-if="room?.now"
      >the room <strong class="num">{{ room.now.celsius.toFixed(1) }} °C</strong>,
      <strong class="num">{{ Math.round(room.now.humidity) }} %</strong> damp
      <span class="soft small">{{ room.now.by_hand ? 'by hand' : '' }} {{ fromNow(room.now.at) }}</span></span
    >
    <span v-else-if="room" class="soft small">how warm and damp the room is, is not known</span>
    <span v-if="line" class="two-days">
      <svg viewBox="0 0 100 20" aria-hidden="true"><path :d="line" /></svg>
      <span class="soft small">{{ damp }}</span>
    </span>
    <button v-if="canMake && !noting" class="plain do small" type="button" @click="noting = true">
      read it off
    </button>
    <form v-if="noting" @submit.prevent="ready && note.mutate()" @keydown.esc.stop="noting = false">
      <input
        v-model="celsius"
        class="plain-field"
        name="room-celsius"
        aria-label="Degrees"
        placeholder="°C"
      />
      <input
        v-model="humidity"
        class="plain-field"
        name="room-humidity"
        aria-label="Relative humidity"
        placeholder="%"
      />
      <button class="plain do" type="submit" :disabled="!ready">note it</button>
    </form>
    <span v-if="note.error.value" class="bad small" role="alert">{{ sentence(note.error.value) }}</span>
  </div>
</template>

<style scoped>
.room,
form {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}

.two-days {
  align-items: center;
  display: inline-flex;
  gap: 6px;
}

svg {
  height: 20px;
  width: 100px;
}

path {
  fill: none;
  stroke: var(--cobalt);
  stroke-width: 1.2;
}

input {
  width: 70px;
}

.do {
  color: var(--cobalt);
  text-decoration: underline;
}
</style>
