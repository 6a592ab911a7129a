<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'

import type { Schemas } from '../../api/client'

// Two people kept a version; both are shown, and one is chosen.
const props = defineProps<{ problem: Schemas['Problem'] }>()
defineEmits<{ mine: []; theirs: [] }>()

const lines = (f?: Schemas['FormulaFile']) => (f?.lines ?? []).map((l) => `${l.amount} ${l.material}`)
const theirs = computed(() => lines(props.problem.current?.file))
const mine = computed(() => lines(props.problem.yours))
</script>

<template>
  <div class="conflict" role="alert">
    <p>{{ problem.detail }}</p>
    <div class="both">
      <section>
        <h3>Theirs, version {{ problem.current?.version }}</h3>
        <ul>
          <li v-for="l in theirs" :key="l" :class="{ differs: !mine.includes(l) }">{{ l }}</li>
        </ul>
        <Button @click="$emit('theirs')">Take theirs</Button>
      </section>
      <section>
        <h3>Yours</h3>
        <ul>
          <li v-for="l in mine" :key="l" :class="{ differs: !theirs.includes(l) }">{{ l }}</li>
        </ul>
        <Button type="primary" @click="$emit('mine')">Keep yours on top</Button>
      </section>
    </div>
  </div>
</template>

<style scoped>
.conflict {
  background: var(--ochre-wash);
  border-left: 4px solid var(--ochre);
  margin-top: 12px;
  padding: 10px 14px;
}

.both {
  display: grid;
  gap: 20px;
  grid-template-columns: 1fr 1fr;
}

ul {
  list-style: none;
  padding: 0;
}

.differs {
  font-weight: 600;
}

.differs::before {
  content: '≠ ';
}
</style>
