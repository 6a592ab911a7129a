<script setup lang="ts">
import { Checkbox, Input, Segmented } from 'ant-design-vue'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { byScoop } from '../../parts/byScoop'
import type { useStart } from './useStart'

// What of a formula is there: ticked, and how much where one knows; the rest is enough.
const props = defineProps<{ start: ReturnType<typeof useStart>; starter: Schemas['Starter'] }>()
const { chosen, missing, instead, isThere, onShelf, choose } = props.start

const ways = [
  { value: 'weight', label: 'I weigh' },
  { value: 'scoop', label: 'I scoop' },
]
const by = computed({
  get: () => (byScoop.value ? 'scoop' : 'weight'),
  set: (way: string) => (byScoop.value = way === 'scoop'),
})
const amount = (l: Schemas['StarterLine']) => (byScoop.value ? l.scooped : l.weighed)
const said = (l: Schemas['StarterLine']) => (chosen.there[l.material] ??= { has: false, amount: '' })
function typed(l: Schemas['StarterLine'], text: string) {
  Object.assign(said(l), { amount: text, has: said(l).has || text.trim() !== '' })
}
</script>

<template>
  <Segmented v-model:value="by" :options="ways" size="large" aria-label="How you measure" />
  <p class="soft">Tick what is in the cupboard. Say how much only where it may be too little.</p>
  <ul>
    <li v-for="l in starter.lines" :key="l.material">
      <template v-if="l.unstocked || onShelf(l, chosen.times)">
        <span class="there" aria-hidden="true">✓</span>
        <span>
          <strong>{{ l.name }}</strong> <span class="num">{{ amount(l) }}</span>{{ ' '
          }}<span class="soft small">{{ l.unstocked ? 'from the tap' : 'on the shelf' }}</span>
        </span>
      </template>
      <template v-else>
        <Checkbox
          :checked="isThere(l)"
          :name="`has-${l.material}`"
          @change="(e) => (said(l).has = e.target.checked)"
        >
          <strong>{{ l.name }}</strong> <span class="num">{{ amount(l) }}</span>
        </Checkbox>
        <label>
          <span class="unseen">How much {{ l.name }} is there</span>
          <Input
            :value="said(l).amount"
            :name="`amount-${l.material}`"
            placeholder="enough"
            size="large"
            @update:value="(v) => typed(l, v)"
          />
        </label>
      </template>
    </li>
  </ul>
  <p v-if="missing.length" class="short">
    Missing: {{ missing.map((l) => l.name.toLowerCase()).join(', ') }}.
    <template v-if="instead.length">
      With what is there you can make
      <template v-for="(s, i) in instead" :key="s.id"
        ><template v-if="i"> or </template
        ><button type="button" class="plain do" @click="choose(s)">{{ s.name }}</button></template
      >.
    </template>
  </p>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 16px 0;
  padding: 0;
}

li {
  align-items: center;
  border-top: 1px solid var(--clay-line);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  justify-content: space-between;
  min-height: 58px;
  padding: 6px 0;
}

li :deep(.ant-checkbox-wrapper) {
  align-items: center;
  flex: 1 1 190px;
  font-size: 16px;
  min-height: 44px;
}

:deep(.ant-segmented-item-selected) {
  box-shadow: inset 0 0 0 2px var(--cobalt);
  color: var(--cobalt);
  font-weight: 600;
}

.there {
  color: var(--celadon-ink);
  font-weight: 600;
  width: 16px;
}

.there + span {
  flex: 1;
}

label {
  flex: 0 0 104px;
}

strong {
  font-family: var(--slab);
  margin-right: 8px;
}

.short {
  background: var(--ochre-wash);
  border-left: 4px solid var(--ochre);
  padding: 8px 12px;
}

.do {
  color: var(--cobalt);
  min-height: 32px;
  text-decoration: underline;
}
</style>
