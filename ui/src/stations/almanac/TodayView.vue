<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import dayjs from 'dayjs'
import { computed } from 'vue'

import { api, ask } from '../../api/client'
import Looking from '../../parts/Looking.vue'

// What is to be done today, on one screen and one printed page, in the order that fits the day.
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['almanac', 'today'],
  queryFn: () => ask(api.GET('/api/today')),
})
const heads: Record<string, string> = {
  ready: 'Ready',
  make: 'Make',
  bench: 'At the bench',
  stir: 'Stir, look, weigh',
  pack: 'Pack and label',
  give: 'Give',
  chore: 'Comes round',
}
const groups = computed(() => {
  const out: { kind: string; name: string; tasks: NonNullable<typeof data.value>['tasks'] }[] = []
  for (const t of data.value?.tasks ?? []) {
    const last = out.at(-1)
    if (last?.kind === t.kind) last.tasks.push(t)
    else out.push({ kind: t.kind, name: heads[t.kind] ?? t.kind, tasks: [t] })
  }
  return out
})
const clock = (at: string, late?: boolean) =>
  late && !dayjs(at).isSame(dayjs(), 'day') ? `since ${dayjs(at).format('D MMM')}` : dayjs(at).format('HH:mm')
const print = () => window.print()
</script>

<template>
  <div class="beside">
    <section class="main-part today">
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <template v-if="data">
        <header>
          <h2>{{ dayjs(data.day).format('dddd D MMMM') }}</h2>
          <span v-if="data.minutes" class="soft">{{ Math.round(data.minutes) }} minutes to make</span>
          <span v-if="data.untimed" class="soft">and {{ data.untimed }} that nobody timed</span>
          <span class="spring" />
          <Button v-if="data.tasks.length" class="no-print" @click="print">Print</Button>
        </header>
        <p v-if="!data.tasks.length" class="empty">Nothing waits today.</p>
        <section v-for="g in groups" :key="g.kind">
          <h3>{{ g.name }}</h3>
          <ul>
            <li v-for="(t, i) in g.tasks" :key="i" :class="{ late: t.late }">
              <span class="box" aria-hidden="true" />
              <component :is="t.to ? 'RouterLink' : 'div'" :to="t.to ?? ''" class="task">
                <strong>{{ t.title }}</strong>
                <span v-if="t.late" class="mark">late</span>
                <span v-if="t.detail" class="soft"> {{ t.detail }}</span>
                <span class="when soft">
                  <template v-if="t.at">{{ clock(t.at, t.late) }}</template>
                  <template v-if="t.minutes">{{ Math.round(t.minutes) }} min</template>
                </span>
              </component>
            </li>
          </ul>
        </section>
        <p v-if="data.tomorrow?.length" class="soft">Tomorrow: {{ data.tomorrow.join('; ') }}.</p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.today {
  max-width: 860px;
}

header {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}

header h2 {
  margin: 0;
}

.spring {
  flex: 1;
}

h3 {
  color: var(--ink-soft);
  font: 600 14px var(--text);
  margin: 16px 0 4px;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: center;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  gap: 10px;
}

.task {
  align-items: baseline;
  color: var(--ink);
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 2px 12px;
  min-height: 48px;
  padding: 12px 4px;
  text-decoration: none;
}

.task:hover strong {
  text-decoration: underline;
}

.when {
  margin-left: auto;
}

.late {
  background: var(--ochre-wash);
}

.mark {
  color: var(--ochre-ink);
  font-weight: 600;
}

.box {
  border: 1.5px solid currentcolor;
  display: none;
  height: 16px;
  width: 16px;
}

@media print {
  .box {
    display: inline-block;
  }

  .task {
    min-height: 0;
    padding: 5px 0;
  }
}
</style>
