<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { stateWords } from '../../api/batch'
import { useOpenBatches } from '../../api/queries'
import Looking from '../../parts/Looking.vue'
import { fromNow } from '../../words'
import BenchWork from './BenchWork.vue'
import EarlierBatches from './EarlierBatches.vue'

const route = useRoute()
const id = computed(() => String(route.params.id ?? ''))
const { data: open, isPending, error, refetch } = useOpenBatches()
</script>

<template>
  <BenchWork v-if="id" :id="id" :key="id" />
  <div v-else class="list">
    <h1>Bench</h1>
    <Looking :pending="isPending" :error="error" @again="refetch()" />
    <p v-if="open?.batches.length === 0">
      Nothing is on the bench. <RouterLink to="/crock">Choose a formula</RouterLink>, size it under “Make it”,
      and bring it here. Or <RouterLink to="/crock/start">make one from a school</RouterLink>.
    </p>
    <ul>
      <li v-for="b in open?.batches ?? []" :key="b.id">
        <RouterLink :to="`/bench/${b.id}`">
          <strong>{{ b.name }}</strong>
          <span class="num">{{ b.code }}</span>
          <span class="soft">{{ stateWords[b.state] }}, begun {{ fromNow(b.started) }}</span>
        </RouterLink>
      </li>
    </ul>
    <EarlierBatches />
  </div>
</template>

<style scoped>
.list {
  padding: 18px 24px;
}

ul {
  list-style: none;
  margin: 16px 0;
  padding: 0;
}

li a {
  align-items: baseline;
  border-bottom: 4px solid var(--clay);
  color: inherit;
  display: flex;
  gap: 20px;
  max-width: 700px;
  padding: 18px 6px 12px;
  text-decoration: none;
}

li a:hover {
  background: var(--slip-raised);
}

li strong {
  color: var(--cobalt);
  flex: 1;
  font-family: var(--slab);
  font-size: 28px;
}
</style>
