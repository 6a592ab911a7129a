<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { useKeys, useSingleKeys } from '../../parts/useKeys'
import VatForm from './VatForm.vue'
import VatPanel from './VatPanel.vue'
import VatPicture from './VatPicture.vue'
import { age, dueWords, useVessel, useVessels, volume } from './vessels'

const route = useRoute()
const router = useRouter()
const { data: vats, isPending, error, refetch } = useVessels()
const id = computed(() => String(route.params.id ?? ''))
const { data: open } = useVessel(id)
const changing = computed(() => 'change' in route.query)

useSingleKeys([{ keys: 'n', does: 'a new vat' }], { n: () => canMake.value && void router.push('/rack/new') })
useKeys([{ keys: 'Esc', does: 'close what stands open' }], (e) => {
  if (e.key === 'Escape' && id.value) void router.push('/rack')
})
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <header class="head">
        <h1>Rack</h1>
        <span class="spring" />
        <RouterLink v-if="canMake" to="/rack/new">A new vat</RouterLink>
      </header>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="vats?.length === 0" class="empty">
        Nothing stands here. <RouterLink v-if="canMake" to="/rack/new">Set up a vat</RouterLink> that is fed,
        stirred and drawn: it says how old what comes out is, and when to stir.
      </p>
      <ul class="vats">
        <li v-for="v in vats ?? []" :key="v.id">
          <button
            class="plain vat"
            type="button"
            :class="{ open: v.id === id }"
            @click="router.push(`/rack/${v.id}`)"
          >
            <VatPicture :vat="v" class="picture" />
            <strong>{{ v.name }}</strong>
            <span class="num">{{ volume(v.level_ml) }} of {{ volume(v.capacity_ml) }}</span>
            <span v-if="v.level_ml" class="soft small">{{ age(v.mean_age_days) }} old in the mean</span>
            <span v-for="d in v.due" :key="d.what" class="small" :class="d.late ? 'watch' : 'soft'">
              {{ d.late ? '▲ ' : '' }}{{ dueWords(d) }}
            </span>
          </button>
        </li>
      </ul>
    </section>
    <VatForm
      v-if="canMake && (id === 'new' || (changing && open))"
      :key="changing ? open?.id : 'new'"
      :was="changing ? open : undefined"
      @leave="router.push(changing ? `/rack/${id}` : '/rack')"
      @kept="(kept) => router.push(`/rack/${kept}`)"
    />
    <VatPanel
      v-else-if="open && open.id === id"
      :key="open.id"
      :vat="open"
      @leave="router.push('/rack')"
      @change="router.push(`/rack/${id}?change`)"
    />
  </div>
</template>

<style scoped>
.head {
  align-items: baseline;
  display: flex;
  gap: 22px;
}

.spring {
  flex: 1;
}

.vats {
  display: grid;
  gap: 22px;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  list-style: none;
  margin: 18px 0 0;
  padding: 0;
}

.vat {
  align-items: start;
  border-bottom: 4px solid var(--clay);
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 10px 10px 14px;
  text-align: left;
  width: 100%;
}

.vat:hover,
.vat.open {
  background: var(--slip-raised);
}

.vat.open {
  border-bottom-color: var(--cobalt);
}

.vat strong {
  font-family: var(--slab);
  font-size: 20px;
}

.picture {
  align-self: center;
  height: 150px;
}

.empty {
  margin-top: 40px;
}
</style>
