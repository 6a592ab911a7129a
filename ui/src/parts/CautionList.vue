<script setup lang="ts">
import type { Schemas } from '../api/client'

defineProps<{ cautions: Schemas['Caution'][] }>()

const signs = { stop: '■ stop', warn: '▲ mind', note: '● note' } as const
const places = { making: 'while you make it', bottle: 'as it stands', use: 'in use' } as const
</script>

<template>
  <ul class="cautions">
    <li v-for="c in cautions" :key="c.code + c.context + c.of" :class="c.severity">
      <details :open="c.severity === 'stop'">
        <summary>
          <span class="sign">{{ signs[c.severity] }}</span> {{ c.text }}
        </summary>
        <p class="act">{{ c.advice }}</p>
        <p class="soft small">
          {{ [`Said of it ${places[c.of]}.`, c.basis].filter(Boolean).join(' ') }}
        </p>
      </details>
    </li>
    <li v-if="cautions.length === 0" class="soft">Nothing out of the ordinary.</li>
  </ul>
</template>

<style scoped>
.cautions {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  border-left: 4px solid var(--clay-line);
  margin-bottom: 6px;
  padding: 3px 8px 3px 10px;
}

li.stop {
  background: var(--oxblood-wash);
  border-color: var(--oxblood);
}

li.warn {
  background: var(--ochre-wash);
  border-color: var(--ochre);
}

summary {
  cursor: pointer;
  list-style: none;
}

summary::-webkit-details-marker {
  display: none;
}

.sign {
  font-size: 12.5px;
  font-weight: 600;
  margin-right: 4px;
  white-space: nowrap;
}

.stop .sign {
  color: var(--oxblood);
}

.warn .sign {
  color: var(--ochre-ink);
}

.note .sign {
  color: var(--ink-soft);
}

p {
  margin: 4px 0 2px;
}

.act {
  font-weight: 600;
}
</style>
