<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, onScopeDispose, watch } from 'vue'

import { api, ask, type Schemas } from '../api/client'
import { useRack } from '../api/queries'
import { canMake } from '../api/session'
import { clock, setClock, useClock } from '../parts/useClock'

// The timers of every batch, on whatever page one is: those that run in few words,
// those that ring until someone has heard them.
const client = useQueryClient()
const { data: rack } = useRack()
const now = useClock()
watch(rack, (r) => setClock(r?.now), { immediate: true })

const left = (t: Schemas['RackTimer']) => (new Date(t.ends).getTime() - now.value) / 1000
const ringing = computed(() => (rack.value?.timers ?? []).filter((t) => left(t) <= 0))
const running = computed(() => (rack.value?.timers ?? []).filter((t) => left(t) > 0))

const heard = useMutation({
  mutationFn: (t: Schemas['RackTimer']) =>
    ask(
      api.POST('/api/batches/{id}/acts', {
        params: { path: { id: t.batch } },
        body: { kind: 'timer-ended', event: t.event },
      }),
    ),
  onSettled: (_b, _e, t) => {
    void client.invalidateQueries({ queryKey: ['rack'] })
    void client.invalidateQueries({ queryKey: ['batch', t.batch] })
  },
})

/** Two strokes on a bowl. Browsers stay silent until someone has touched the page. */
let sound: AudioContext | undefined
function strike() {
  if (typeof AudioContext === 'undefined') return
  sound ??= new AudioContext()
  for (const after of [0, 0.28]) {
    const tone = sound.createOscillator()
    const loud = sound.createGain()
    tone.frequency.value = 880
    loud.gain.setValueAtTime(0.25, sound.currentTime + after)
    loud.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + after + 0.5)
    tone.connect(loud).connect(sound.destination)
    tone.start(sound.currentTime + after)
    tone.stop(sound.currentTime + after + 0.5)
  }
}
const ring = setInterval(() => ringing.value.length && strike(), 2500)
onScopeDispose(() => {
  clearInterval(ring)
  void sound?.close()
})
</script>

<template>
  <section v-if="ringing.length || running.length" class="timers" aria-label="Timers">
    <p v-for="t in ringing" :key="`${t.batch}-${t.event}`" class="ring" role="alert">
      <strong>{{ t.name }}</strong>
      <RouterLink :to="`/bench/${t.batch}`">{{ t.batch_name }}</RouterLink>
      <span class="num">▲ over, {{ clock(-left(t)) }} ago</span>
      <button v-if="canMake" class="heard" type="button" @click="heard.mutate(t)">Heard</button>
    </p>
    <p v-if="running.length" class="run" aria-label="Timers that run">
      <RouterLink v-for="t in running" :key="`${t.batch}-${t.event}`" :to="`/bench/${t.batch}`">
        <span class="num">{{ clock(left(t)) }}</span> {{ t.name.toLowerCase() }}, {{ t.batch_name }}
      </RouterLink>
    </p>
  </section>
</template>

<style scoped>
.timers {
  border-bottom: 1px solid var(--clay-line);
}

p {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  margin: 0;
  padding: 4px 16px;
}

.ring {
  background: var(--ochre-wash);
  border-left: 6px solid var(--ochre);
  font-size: 19px;
  min-height: 52px;
}

.ring strong {
  font-family: var(--slab);
  font-size: 24px;
}

.run a {
  color: var(--ink);
  text-decoration: none;
}

.run .num {
  font-weight: 600;
}

.heard {
  background: var(--cobalt);
  border: 0;
  border-radius: var(--corner);
  color: var(--on-cobalt);
  cursor: pointer;
  font: 600 18px var(--slab);
  margin-left: auto;
  min-height: 44px;
  padding: 0 22px;
}
</style>
