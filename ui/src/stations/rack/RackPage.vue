<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useRack } from '../../api/queries'
import { canMake } from '../../api/session'
import Looking from '../../parts/Looking.vue'
import { useClock } from '../../parts/useClock'
import { useKeys, useSingleKeys } from '../../parts/useKeys'
import { fromNow } from '../../words'
import { boards, nextOf } from './shelves'
import ChoreList from './ChoreList.vue'
import { useChores } from './chores'
import RoomLine from './RoomLine.vue'
import StandPanel from './StandPanel.vue'
import ThingPicture from './ThingPicture.vue'
import VatForm from './VatForm.vue'
import VatPanel from './VatPanel.vue'
import VatPicture from './VatPicture.vue'
import { age, dueWords, useVessel, useVessels, volume } from './vessels'

const route = useRoute()
const router = useRouter()
const { data: vats, isPending, error, refetch } = useVessels()
const id = computed(() => String(route.params.id ?? ''))
const { data: rack, isPending: looking, error: lost, refetch: again } = useRack()
const now = useClock()
const shelves = computed(() => boards(rack.value?.standing ?? [], now.value))
/** What is opened is a vat, something that comes round, or a batch that stands or stood. */
const isVat = computed(() => (vats.value ?? []).some((v) => v.id === id.value))
const { data: chores, error: noChores } = useChores()
const isChore = computed(() => (chores.value ?? []).some((c) => c.id === id.value))
const batchID = computed(() => {
  const known = vats.value && (chores.value || noChores.value)
  return known && id.value && id.value !== 'new' && !isVat.value && !isChore.value ? id.value : ''
})
const { data: open } = useVessel(computed(() => (isVat.value ? id.value : '')))
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
        <RoomLine />
        <span class="spring" />
        <RouterLink v-if="canMake" to="/rack/new">A new vat</RouterLink>
      </header>
      <Looking :pending="isPending || looking" :error="error ?? lost" @again="(refetch(), again())" />
      <p v-if="vats?.length === 0 && rack?.standing.length === 0" class="empty">
        Nothing stands here. A batch comes here when its steps say that it dries, steeps or rests.
        <RouterLink v-if="canMake" to="/rack/new">Set up a vat</RouterLink> that is fed, stirred and drawn: it
        says how old what comes out is, and when to stir.
      </p>
      <section
        v-for="board in shelves"
        :key="board.name"
        class="board"
        :class="{ late: board.name === 'now' }"
      >
        <h2>{{ board.name }}</h2>
        <ul>
          <li v-for="t in board.things" :key="t.batch">
            <button
              class="plain thing"
              type="button"
              :class="{ open: t.batch === id }"
              @click="router.push(`/rack/${t.batch}`)"
            >
              <ThingPicture :thing="t" class="picture" />
              <span class="tag">
                <strong>{{ t.name }}</strong>
                <span class="soft small">{{ t.step_name.toLowerCase() }}</span>
                <span v-if="nextOf(t)?.kind === 'step'" class="small good">can be packed</span>
                <span v-else-if="nextOf(t)" class="small" :class="nextOf(t)?.late ? 'watch' : 'soft'">
                  {{ nextOf(t)?.late ? '▲ ' : ''
                  }}{{ nextOf(t)?.kind === 'ready' ? 'ready' : nextOf(t)?.what }}
                  {{ fromNow(nextOf(t)?.at) }}
                </span>
                <span v-if="t.says" class="small watch">{{ t.says.split(':')[0] }}</span>
              </span>
            </button>
          </li>
        </ul>
      </section>
      <section v-if="vats?.length" class="board floor">
        <h2>vats, on the floor</h2>
        <ul>
          <li v-for="v in vats ?? []" :key="v.id">
            <button
              class="plain thing"
              type="button"
              :class="{ open: v.id === id }"
              @click="router.push(`/rack/${v.id}`)"
            >
              <VatPicture :vat="v" class="picture vat" />
              <span class="tag">
                <strong>{{ v.name }}</strong>
                <span class="num">{{ volume(v.level_ml) }} of {{ volume(v.capacity_ml) }}</span>
                <span v-if="v.level_ml" class="soft small">{{ age(v.mean_age_days) }} old in the mean</span>
                <span v-for="d in v.due" :key="d.what" class="small" :class="d.late ? 'watch' : 'soft'">
                  {{ d.late ? '▲ ' : '' }}{{ dueWords(d) }}
                </span>
              </span>
            </button>
          </li>
        </ul>
      </section>
      <ChoreList :here="isChore ? id : ''" />
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
    <StandPanel v-else-if="batchID" :id="batchID" :key="batchID" @leave="router.push('/rack')" />
  </div>
</template>

<style scoped>
.head {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}

.head a {
  white-space: nowrap;
}

.spring {
  flex: 1;
}

.board {
  border-bottom: 9px solid var(--clay);
  display: grid;
  grid-template-columns: 84px 1fr;
  margin-top: 14px;
}

.board.floor {
  border-bottom: 2px solid var(--ink);
}

.board.late h2 {
  color: var(--ochre-ink);
}

h2 {
  align-self: end;
  color: var(--ink-soft);
  font-size: 15px;
  padding-bottom: 8px;
}

ul {
  display: grid;
  gap: 0 18px;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: flex;
}

.thing {
  align-items: flex-end;
  display: flex;
  gap: 12px;
  padding: 6px 6px 0;
  width: 100%;
}

.thing:hover,
.thing.open {
  background: var(--slip-raised);
}

.thing.open {
  box-shadow: inset 0 -4px var(--cobalt);
}

.tag {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-width: 0;
  padding-bottom: 8px;
}

.tag strong {
  font-family: var(--slab);
  font-size: 19px;
}

.picture {
  display: block;
  flex: none;
  height: 84px;
}

.picture.vat {
  height: 110px;
}

.good {
  color: var(--celadon-ink);
  font-weight: 600;
}

.watch {
  color: var(--ochre-ink);
  font-weight: 600;
}

@media (max-width: 700px) {
  .board {
    display: block;
  }
}

.empty {
  margin-top: 40px;
}

@media (max-width: 520px) {
  .head :deep(.room) {
    flex-basis: 100%;
    order: 1;
  }
}
</style>
