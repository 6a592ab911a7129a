<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useMaterials, useShelf } from '../../api/queries'
import { canMake } from '../../api/session'
import Hatches from '../../parts/Hatches.vue'
import ListHead from '../../parts/ListHead.vue'
import Looking from '../../parts/Looking.vue'
import { remembered } from '../../parts/remembered'
import SortedBy from '../../parts/SortedBy.vue'
import { holds, type Format } from '../../parts/table'
import { useKeys, useSingleKeys } from '../../parts/useKeys'
import { takeAlong } from '../../takeAlong'
import DeliveryLine from './DeliveryLine.vue'
import MaterialPanel from './MaterialPanel.vue'
import PackagingPanel from './PackagingPanel.vue'
import OwnMaterialForm from './OwnMaterialForm.vue'
import ShelfFiles from './ShelfFiles.vue'
import ShelfJar from './ShelfJar.vue'
import WantedList from './WantedList.vue'
import { inOrder, isIn, orders, states, type Order, type State } from './boards'
import { markWords } from './marks'

const route = useRoute()
const router = useRouter()
const { data: jars, isPending, error, refetch } = useShelf()
const { data: materials } = useMaterials()

const making = computed(() => canMake.value && route.params.material === 'new')
const changing = computed(() =>
  canMake.value && 'change' in route.query
    ? materials.value?.find((m) => m.id === route.params.material && m.own)
    : undefined,
)
const open = computed(() => jars.value?.find((j) => j.material === route.params.material))
const listed = computed(() => route.params.material === 'list') // what to buy stands in place of the jars

// What is looked for, and how it stands; remembered by this browser.
const wanted = ref('')
const view = remembered('shelf', { state: 'all' as State, by: 'board' as Order })
const known = computed(() => new Map((materials.value ?? []).map((m) => [m.id, m])))
const shown = computed(() => {
  const found = (jars.value ?? []).filter((j) => {
    const m = known.value.get(j.material)
    return (
      isIn(view.value.state, j, !!m?.own) &&
      holds(`${j.name} ${j.strength ?? ''} ${m?.also.join(' ') ?? ''}`, wanted.value)
    )
  })
  return inOrder(view.value.by, found)
})
function all() {
  wanted.value = ''
  view.value.state = 'all'
}
function along(as: Format) {
  const rows = shown.value.map((j) => [
    j.name,
    j.strength,
    j.stock_g,
    j.usable_g,
    j.reorder_g,
    j.lots,
    j.price_per_kg,
    j.next_date,
    j.marks.map((m) => markWords[m].text).join(', '),
  ])
  const head = ['material', 'strength', 'grams', 'usable grams', 'reorder at grams', 'lots', 'price a kg']
  void takeAlong(as, { file: 'shelf', head: [...head, 'next date', 'marks'], rows })
}
const delivery = ref<InstanceType<typeof DeliveryLine>>()

useSingleKeys(
  [
    { keys: 'd', does: 'note a delivery' },
    { keys: 'm', does: 'make a material of your own' },
  ],
  {
    d: () => delivery.value?.focus(),
    m: () => canMake.value && void router.push('/shelf/new'),
  },
)
useKeys([{ keys: 'Esc', does: 'close what stands open' }], (e) => {
  if (e.key === 'Escape' && route.params.material) void router.push('/shelf')
})
</script>

<template>
  <div class="beside">
    <svg class="unseen" aria-hidden="true">
      <defs><Hatches /></defs>
    </svg>
    <section class="boards main-part">
      <header class="head">
        <h1>Shelf</h1>
        <span class="spring" />
        <RouterLink v-if="canMake" class="no-print" to="/shelf/new">A material of your own</RouterLink>
        <RouterLink class="no-print" to="/shelf/packaging">Jars and bottles</RouterLink>
        <RouterLink v-if="listed" class="no-print" to="/shelf">The jars</RouterLink>
        <RouterLink v-else class="no-print" to="/shelf/list">What to buy</RouterLink>
        <ShelfFiles class="no-print" />
      </header>
      <WantedList v-if="listed" />
      <template v-else>
        <DeliveryLine v-if="canMake" ref="delivery" class="no-print" />
        <Looking :pending="isPending" :error="error" @again="refetch()" />
        <div v-if="jars?.length === 0" class="empty">
          <p>
            The shelf is empty. Note your first delivery above, as you would say it:
            <em>5 kg washing soda 11.40 from the mill, best 2028-06</em>. Or begin with what is in the
            cupboard:
          </p>
          <RouterLink v-if="canMake" to="/crock/start" class="begin">Make a first batch</RouterLink>
          <p class="soft small">Choose a good and a way, tick what is there, weigh or scoop it, label it.</p>
        </div>
        <ListHead
          v-if="jars?.length"
          v-model="wanted"
          what="material"
          placeholder="name, other name"
          :total="jars.length"
          :shown="shown.length"
          printed
          class="over"
          @all="all"
          @take="along"
        >
          <SortedBy v-model="view.state" label="Which jars" :options="states" />
          <SortedBy v-model="view.by" label="In which order" :options="orders" />
        </ListHead>
        <p v-if="jars?.length && shown.length === 0" class="soft">
          {{
            view.state === 'look' && !wanted
              ? 'Nothing is low, clumped or near its date.'
              : 'None of them is like that.'
          }}
        </p>
        <ul class="jars">
          <li v-for="j in shown" :key="j.material">
            <ShelfJar
              :jar="j"
              :open="j.material === open?.material"
              @open="router.push(`/shelf/${j.material}`)"
            />
          </li>
        </ul>
      </template>
    </section>
    <OwnMaterialForm
      v-if="making || changing"
      :key="changing?.id ?? 'new'"
      :was="changing"
      @leave="router.push(changing ? `/shelf/${changing.id}` : '/shelf')"
      @kept="(m) => router.push(`/shelf/${m.id}`)"
    />
    <PackagingPanel v-else-if="route.params.material === 'packaging'" @leave="router.push('/shelf')" />
    <MaterialPanel v-else-if="open" :key="open.material" :jar="open" @leave="router.push('/shelf')" />
  </div>
</template>

<style scoped>
.head {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}

.jars {
  display: grid;
  gap: 22px 0;
  grid-template-columns: repeat(auto-fill, minmax(138px, 1fr));
  list-style: none;
  margin: 18px 0 0;
  padding: 0;
}

.over {
  margin-top: 14px;
}

.empty {
  margin-top: 20px;
  max-width: 36em;
}

.begin {
  background: var(--cobalt);
  border-radius: var(--corner);
  color: var(--on-cobalt, #fff);
  display: inline-block;
  font: 600 18px var(--slab);
  padding: 15px 24px;
  text-decoration: none;
}
</style>
