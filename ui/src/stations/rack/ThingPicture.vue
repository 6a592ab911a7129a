<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'

// What stands on a shelf, drawn: the longer it has stood of its time, the further it
// has turned from wet clay to pale.
const props = defineProps<{ thing: Schemas['Standing'] }>()
const share = computed(() => props.thing.share ?? 0)
/** Tabs on a tray: as many as there are, up to what can be told apart. */
const tabs = computed(() => {
  const n = Math.min(props.thing.pieces || 12, 24)
  const columns = Math.min(8, Math.max(4, Math.ceil(n / 3)))
  return Array.from({ length: n }, (_, i) => ({
    x: 14 + (i % columns) * (92 / columns),
    y: 56 - Math.floor(i / columns) * 11,
    w: 92 / columns - 3,
    dry: i < share.value * n,
  }))
})
</script>

<template>
  <svg
    viewBox="0 0 120 90"
    role="img"
    :aria-label="`${thing.shape}, ${Math.round(100 * share)} % of its time over`"
  >
    <g v-if="thing.shape === 'tray'">
      <rect
        v-for="(t, i) in tabs"
        :key="i"
        :x="t.x"
        :y="t.y"
        :width="t.w"
        height="9"
        rx="1.5"
        :fill="t.dry ? 'var(--slip-raised)' : 'var(--clay)'"
        stroke="var(--ink)"
      />
      <path d="M6 68h108l-5 14H11z" class="clay" />
    </g>
    <g v-else-if="thing.shape === 'jar'">
      <path d="M38 22h44v8q10 6 10 18v28q0 8-8 8H36q-8 0-8-8V48q0-12 10-18z" class="glass" />
      <path
        :d="`M28 ${84 - 44 * 0.9}h64V76q0 8-8 8H36q-8 0-8-8z`"
        class="liquid"
        :style="{ opacity: 0.35 + 0.65 * share }"
      />
      <path d="M40 60q8-6 14 2t14-1 12 3M44 72q10-5 18 1t14-3" class="peel" />
      <path d="M36 14h48v8H36z" class="clay" />
      <path d="M38 22h44v8q10 6 10 18v28q0 8-8 8H36q-8 0-8-8V48q0-12 10-18z" class="line" />
    </g>
    <g v-else-if="thing.shape === 'bottle'">
      <path d="M52 10h16v16q12 6 12 18v32q0 8-8 8H48q-8 0-8-8V44q0-12 12-18z" class="glass" />
      <path d="M40 46h40v30q0 8-8 8H48q-8 0-8-8z" class="liquid" :style="{ opacity: 0.35 + 0.65 * share }" />
      <path d="M52 10h16v16q12 6 12 18v32q0 8-8 8H48q-8 0-8-8V44q0-12 12-18z" class="line" />
    </g>
    <g v-else-if="thing.shape === 'bench'">
      <path d="M22 84V50h22v34zM49 84V44h22v40zM76 84V54h22v30z" class="glass" />
      <path
        d="M22 84V50h22v34zM49 84V44h22v40zM76 84V54h22v30zM24 50v-6h18v6M51 44v-6h18v6M78 54v-6h18v6"
        class="line"
      />
    </g>
    <g v-else>
      <path d="M22 40h76l-4 38q-1 6-7 6H33q-6 0-7-6z" class="clay" />
      <path d="M16 40h88M14 52h8M98 52h8" class="line" />
      <path
        v-if="share < 0.6"
        d="M44 32q-4-6 0-11t0-11M60 32q-4-6 0-11t0-11M76 32q-4-6 0-11t0-11"
        class="steam"
      />
    </g>
  </svg>
</template>

<style scoped>
.glass {
  fill: var(--slip-raised);
}

.clay {
  fill: var(--clay-line);
  stroke: var(--ink);
  stroke-width: 1.6;
}

.liquid {
  fill: var(--ochre);
}

.peel,
.steam,
.line {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
  stroke-width: 1.6;
}

.peel {
  stroke: var(--ochre-ink);
}

.steam {
  stroke: var(--clay);
}
</style>
