<script setup lang="ts">
import { computed } from 'vue'

// A label to scale on what it goes on: a jar, a lid seen from above, a pouch, a board.
const props = defineProps<{
  picture: string
  width: number
  height: number
  round: boolean
  form: string
  behind: boolean
}>()

const pad = computed(() => Math.max(8, Math.min(props.width, props.height) * 0.14))
const box = computed(() => ({ w: props.width + 2 * pad.value, h: props.height + 2.6 * pad.value }))
</script>

<template>
  <svg
    class="jar"
    :class="{ behind }"
    :viewBox="`0 0 ${box.w} ${box.h}`"
    role="img"
    :aria-label="`The label on its ${form}`"
  >
    <g class="glaze">
      <circle v-if="round" :cx="box.w / 2" :cy="box.h / 2" :r="width / 2 + pad * 0.7" />
      <path
        v-else-if="form === 'pouch'"
        :d="`M${pad * 0.4} ${pad * 0.5}h${box.w - pad * 0.8}l${pad * 0.2} ${box.h - pad}q${-box.w / 2} ${pad * 0.4} ${-(box.w - pad * 0.4)} 0z`"
      />
      <rect
        v-else-if="form === 'tag'"
        :x="pad * 0.3"
        :y="box.h - pad"
        :width="box.w - pad * 0.6"
        :height="pad * 0.5"
      />
      <template v-else>
        <rect :x="box.w * 0.16" :y="pad * 0.2" :width="box.w * 0.68" :height="pad * 0.9" rx="1.5" />
        <rect
          :x="pad * 0.25"
          :y="pad * 1.25"
          :width="box.w - pad * 0.5"
          :height="box.h - pad * 1.5"
          :rx="pad * 0.6"
        />
      </template>
    </g>
    <image
      :href="picture"
      :x="pad"
      :y="round ? (box.h - height) / 2 : form === 'tag' ? box.h - pad - height : pad * 1.9"
      :width="width"
      :height="height"
    />
  </svg>
</template>

<style scoped>
.jar {
  max-height: 560px;
  width: 100%;
}

.glaze > * {
  fill: var(--slip-sunk);
  stroke: var(--clay);
  stroke-width: 0.6;
}

.behind {
  opacity: 0.6;
}
</style>
