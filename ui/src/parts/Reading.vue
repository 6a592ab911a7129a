<script setup lang="ts">
// One reading: what it is, its number, and behind it what to do, what it means, and the
// arithmetic.
defineProps<{
  what: string
  value: string
  under?: string
  /** What to do about it, and what it is. */
  means?: { act: string; is: string }
  tone?: 'good' | 'watch' | 'stop'
  large?: boolean
}>()

const marks = { good: '●', watch: '▲', stop: '■' } as const
const words = { good: 'good', watch: 'to mind', stop: 'stop' } as const
</script>

<template>
  <details class="reading" :class="{ large }">
    <summary>
      <span class="what">{{ what }}</span>
      <span class="num value" :class="tone">
        <span v-if="tone" class="sign" :title="words[tone]" :aria-label="words[tone]">{{ marks[tone] }}</span>
        {{ value }}
      </span>
      <span v-if="under" class="soft small under">{{ under }}</span>
      <span v-if="$slots.drawn" class="drawn"><slot name="drawn" /></span>
    </summary>
    <div class="why small">
      <template v-if="means">
        <p class="act">{{ means.act }}</p>
        <p>{{ means.is }}</p>
        <h4>How it is reckoned</h4>
      </template>
      <slot />
    </div>
  </details>
</template>

<style scoped>
.reading {
  border-bottom: 1px solid var(--clay-line);
  padding: 6px 0;
}

summary {
  align-items: baseline;
  cursor: pointer;
  display: grid;
  grid-template-columns: 1fr auto;
  list-style: none;
}

summary::-webkit-details-marker {
  display: none;
}

.what::before {
  color: var(--clay);
  content: '▸ ';
}

[open] .what::before {
  content: '▾ ';
}

.value {
  font-size: 21px;
  font-weight: 600;
  line-height: 1.1;
}

.large .value {
  font-size: 32px;
}

.sign {
  font-size: 12px;
  vertical-align: middle;
}

.value.watch {
  color: var(--ochre-ink);
}

.value.stop {
  color: var(--oxblood);
}

.value.good .sign {
  color: var(--celadon);
}

.under,
.drawn {
  grid-column: 1 / 3;
}

.under {
  text-align: right;
}

.why {
  padding: 6px 0 4px 14px;
}

.why :deep(p) {
  margin: 0 0 6px;
}

.why .act {
  font-size: 15px;
  font-weight: 600;
}

h4 {
  color: var(--ink-soft);
  font: 600 12.5px var(--text);
  margin: 8px 0 2px;
}
</style>
