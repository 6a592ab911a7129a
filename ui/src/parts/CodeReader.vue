<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'

import { codeReader } from './codes'

// What a camera sees, until a code is in it.
const emit = defineEmits<{ read: [text: string] }>()

const video = ref<HTMLVideoElement>()
const says = ref('Hold the code before the camera.')
const failed = ref(false)
let stream: MediaStream | undefined
let gone = false

const why: Record<string, string> = {
  NotAllowedError: 'This browser does not let the page use the camera: allow it, or type the code.',
  NotFoundError: 'There is no camera here: type the code.',
  NotReadableError: 'Something else uses the camera: close that, or type the code.',
}

function fail(e: unknown) {
  failed.value = true
  says.value = why[e instanceof Error ? e.name : ''] ?? 'The camera does not work here: type the code.'
}

const nextFrame = () => new Promise((on) => setTimeout(on, 150))

onMounted(async () => {
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      video: { facingMode: 'environment', width: { ideal: 1280 }, height: { ideal: 720 } },
    })
    const read = await codeReader()
    const at = video.value
    if (!at || gone) return stop()
    at.srcObject = stream
    await at.play()
    while (!gone) {
      const text = await read(at)
      if (text) return emit('read', text)
      await nextFrame()
    }
  } catch (e) {
    if (!gone) fail(e)
  }
})

function stop() {
  for (const track of stream?.getTracks() ?? []) track.stop()
}
onBeforeUnmount(() => {
  gone = true
  stop()
})
</script>

<template>
  <div class="reader">
    <video v-show="!failed" ref="video" muted playsinline aria-label="What the camera sees"></video>
    <p class="small" :class="failed ? 'bad' : 'soft'" role="status">{{ says }}</p>
  </div>
</template>

<style scoped>
.reader {
  padding: 10px 18px;
}

video {
  background: var(--clay-line);
  border-radius: var(--corner);
  display: block;
  max-height: 40vh;
  width: 100%;
}

p {
  margin: 6px 0 0;
}
</style>
