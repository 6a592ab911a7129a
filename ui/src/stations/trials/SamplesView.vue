<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { canMake } from '../../api/session'
import AboutThis from '../../parts/AboutThis.vue'
import Looking from '../../parts/Looking.vue'
import SidePanel from '../../parts/SidePanel.vue'
import { day, fromNow, sentence } from '../../words'
import SampleLife from './SampleLife.vue'
import SampleLookForm from './SampleLookForm.vue'

// Jars that are kept to be looked at while they age: what was seen of each beside the date it
// was given, and what else is about of one that went early.
const client = useQueryClient()
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['samples'],
  queryFn: () => ask(api.GET('/api/samples')),
})
const open = ref('')
const opened = computed(() => data.value?.find((s) => s.id === open.value))
const refresh = () => {
  for (const key of ['samples', 'pantry', 'own-figures', 'strip', 'waiting'])
    void client.invalidateQueries({ queryKey: [key] })
}
const end = useMutation({
  mutationFn: (v: { id: string; back: boolean }) =>
    ask(api.POST('/api/samples/{id}/end', { params: { path: { id: v.id } }, body: { back: v.back } })),
  onSuccess: refresh,
})
const count = useMutation({
  mutationFn: (l: Schemas['SampleLook']) =>
    ask(api.PATCH('/api/looks/{id}', { params: { path: { id: l.id } }, body: { counts: !l.counts } })),
  onSuccess: refresh,
})
const state = (s: Schemas['Sample']) =>
  s.ended
    ? 'looked at no more'
    : s.outcome === 'gone early' || s.outcome === 'gone'
      ? s.outcome
      : s.due
        ? 'look at it'
        : s.next_look
          ? `next ${fromNow(s.next_look)}`
          : s.outcome
const failed = computed(() => end.error.value ?? count.error.value)
</script>

<template>
  <div class="beside">
    <section class="main-part">
      <p class="lead">
        A jar of each batch that stays here tells what no table knows: how long it really keeps, in this
        house. What goes early shortens the date of the next, and says which jars of it are about.
      </p>
      <Looking :pending="isPending" :error="error" @again="refetch()" />
      <p v-if="data && !data.length" class="empty">
        No jar is kept to be looked at. Keep one: open a good in the
        <RouterLink to="/pantry">pantry</RouterLink>, under “Jars”.
      </p>
      <ul v-if="data?.length" class="samples">
        <li v-for="s in data" :key="s.id" :class="{ at: open === s.id }">
          <button
            type="button"
            class="plain line"
            :aria-expanded="open === s.id"
            @click="open = open === s.id ? '' : s.id"
          >
            <span>
              <strong>{{ s.name }}</strong> <span class="num small">{{ s.jar }}</span>
              <span class="small says">{{ s.says }}</span>
            </span>
            <SampleLife :sample="s" />
            <span
              class="small state"
              :class="{ bad: s.outcome.startsWith('gone') && !s.ended, watch: s.due, soft: !s.due }"
              >{{ state(s) }}</span
            >
          </button>
        </li>
      </ul>
    </section>
    <SidePanel v-if="opened" :key="open" :title="`${opened.name} ${opened.jar}`" @leave="open = ''">
      <p v-for="c in opened.cautions" :key="c" class="stop" role="alert">{{ c }}</p>
      <p>{{ opened.says }}</p>
      <p class="soft small">
        Made {{ day(opened.made) }}, best before {{ day(opened.best_before)
        }}<template v-if="opened.stands">; stands {{ opened.stands }}</template
        >.
      </p>
      <SampleLookForm
        v-if="canMake && !opened.ended && !opened.outcome.startsWith('gone')"
        :sample="opened"
        @kept="refresh"
      />
      <template v-if="opened.brothers.length">
        <h3>What else is about</h3>
        <p class="small">
          Batches of the same formula that are dated longer than this one kept. Look at what is here, and tell
          who has some.
        </p>
        <table class="rows">
          <thead>
            <tr>
              <th>Batch</th>
              <th class="right">here</th>
              <th class="right">elsewhere<AboutThis of="samplesElsewhere" /></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="b in opened.brothers" :key="b.batch">
              <td>
                <RouterLink :to="`/pantry/${b.batch}`">{{ b.code }}</RouterLink>
                <div class="soft small">
                  made {{ day(b.made) }}, dated {{ day(b.best_before) }}
                  <strong v-if="b.older" class="bad">older already than what went</strong>
                </div>
              </td>
              <td class="right num">{{ b.here }}</td>
              <td class="right num">
                <RouterLink v-if="b.out" :to="`/pantry/${b.batch}`">{{ b.out }}, who?</RouterLink>
                <template v-else>0</template>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <h3>Looks</h3>
      <p v-if="!opened.looks.length" class="soft">Nobody has looked yet.</p>
      <ul class="looks">
        <li v-for="l in opened.looks" :key="l.id" :class="{ gone: !l.counts }">
          <span class="soft small">{{ day(l.on) }}, {{ l.by }}</span>
          <div>
            {{ l.good ? 'Good' : 'Gone' }}{{ l.signs.length ? `: ${l.signs.join('; ')}` : ', as new'
            }}<template v-if="l.ph">; pH {{ l.ph }}</template
            ><template v-if="l.note">; {{ l.note }}</template>
          </div>
          <button v-if="canMake && !opened.ended" type="button" class="plain do" @click="count.mutate(l)">
            {{ l.counts ? 'Take back' : 'Count again' }}
          </button>
        </li>
      </ul>
      <p v-if="failed" class="bad" role="alert">{{ sentence(failed) }}</p>
      <p v-if="canMake && !opened.ended" class="ends">
        <Button @click="end.mutate({ id: opened.id, back: false })">Thrown away: look no more</Button>
        <Button v-if="!opened.outcome.startsWith('gone')" @click="end.mutate({ id: opened.id, back: true })"
          >Back among the goods</Button
        >
      </p>
    </SidePanel>
  </div>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}

.samples,
.looks {
  list-style: none;
  margin: 0;
  padding: 0;
}

.samples li {
  border-bottom: 1px solid var(--clay-line);
}

.samples .at {
  background: var(--cobalt-wash);
}

.line {
  align-items: center;
  display: grid;
  gap: 4px 16px;
  grid-template-columns: minmax(0, 1fr) minmax(180px, 260px) 110px;
  min-height: 64px;
  padding: 8px;
  text-align: left;
  width: 100%;
}

.state.watch {
  color: var(--ochre-ink);
  font-weight: 600;
}

.says {
  display: block;
}

.stop {
  background: var(--oxblood-wash);
  border-left: 4px solid var(--oxblood);
  padding: 8px 10px;
}

.looks li {
  border-bottom: 1px solid var(--clay-line);
  padding: 6px 0;
}

.gone div {
  text-decoration: line-through;
}

.do {
  color: var(--cobalt);
  min-height: 32px;
  text-decoration: underline;
}

.ends {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 16px;
}

@media (max-width: 640px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto;
  }

  .line :nth-child(2) {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
