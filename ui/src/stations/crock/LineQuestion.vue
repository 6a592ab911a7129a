<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, ask, type Schemas } from '../../api/client'
import { sentence } from '../../words'
import { useMaterials } from '../../api/queries'
import { canMake } from '../../api/session'

// What is asked of a line, and the ways to answer it, in its place.
const props = defineProps<{
  question: Schemas['Question']
  line: Schemas['FormulaLine']
  materialId?: string
}>()
const emit = defineEmits<{ amount: [string]; material: [string] }>()
const client = useQueryClient()
const { data: materials } = useMaterials()

type Answer = Schemas['Question']['answers'][number]
const can = (a: Answer) => canMake.value && props.question.answers.includes(a)
const open = ref<Answer | ''>('')
const measure = ref('1 cup')
const massG = ref('')
const size = ref('')
const other = ref('')

const answered = () => {
  open.value = ''
  for (const key of ['assess', 'materials', 'plan', 'sizes'])
    void client.invalidateQueries({ queryKey: [key] })
}
const weigh = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/materials/{material}/figures', {
        params: { path: { material: props.materialId ?? '' } },
        body: { weighed: { measure: measure.value, mass_g: Number(massG.value.replace(',', '.')) } },
      }),
    ),
  onSuccess: answered,
})
const vessel = useMutation({
  mutationFn: () =>
    ask(api.PUT('/api/sizes', { body: { unit: props.question.unit ?? '', amount: size.value } })),
  onSuccess: answered,
})
const anotherName = useMutation({
  mutationFn: () =>
    ask(api.POST('/api/materials', { body: { name: props.line.material, like: other.value } })),
  onSuccess: (m) => {
    answered()
    emit('material', m.id)
  },
})
const trouble = computed(() => weigh.error.value ?? vessel.error.value ?? anotherName.error.value)
const thing = computed(() => props.question.unit || 'cup')

function weighing(answer: Answer) {
  measure.value = `1 ${answer === 'weigh-one' && !props.question.unit ? 'piece' : thing.value}`
  open.value = answer
}
</script>

<template>
  <div class="question" role="status">
    <p>
      <span class="sign" aria-label="question">?</span> {{ question.detail }}
      <span v-if="can('choose')" class="chips">
        <button
          v-for="n in question.nearest ?? []"
          :key="n"
          class="plain chip"
          type="button"
          @click="emit('material', n)"
        >
          {{ n }}
        </button>
      </span>
    </p>
    <p v-if="!open" class="ways">
      <button v-if="can('another-name')" class="plain way" type="button" @click="open = 'another-name'">
        another name for …
      </button>
      <RouterLink
        v-if="can('own-material')"
        class="way"
        :to="{ path: '/shelf/new', query: { name: line.material } }"
        >a material of your own</RouterLink
      >
      <button v-if="can('weigh-mine')" class="plain way" type="button" @click="weighing('weigh-mine')">
        weigh mine
      </button>
      <button v-if="can('weigh-one')" class="plain way" type="button" @click="weighing('weigh-one')">
        weigh one
      </button>
      <button
        v-if="can('measure-mine') || can('fill-level')"
        class="plain way"
        type="button"
        @click="open = 'measure-mine'"
      >
        say how much it holds
      </button>
      <button
        v-if="can('leave-open') && question.code !== 'open-amount'"
        class="plain way"
        type="button"
        @click="emit('amount', 'as needed')"
      >
        leave it open until the bench
      </button>
    </p>
    <form v-if="open === 'weigh-mine' || open === 'weigh-one'" class="row" @submit.prevent="weigh.mutate()">
      <input v-model="measure" class="plain-field" aria-label="Measure" />
      <span>weighs</span>
      <input v-model="massG" class="plain-field" inputmode="decimal" placeholder="grams" aria-label="Grams" />
      <button class="plain way" type="submit" :disabled="!massG">take it</button>
    </form>
    <form v-else-if="open === 'measure-mine'" class="row" @submit.prevent="vessel.mutate()">
      <span>My {{ thing }} holds</span>
      <input v-model="size" class="plain-field" placeholder="750 ml" :aria-label="`What my ${thing} holds`" />
      <button class="plain way" type="submit" :disabled="!size">take it</button>
    </form>
    <form v-else-if="open === 'another-name'" class="row" @submit.prevent="anotherName.mutate()">
      <span>“{{ line.material }}” is</span>
      <input v-model="other" class="plain-field" list="material-names" aria-label="Which material it is" />
      <button
        class="plain way"
        type="submit"
        :disabled="!materials?.some((m) => m.name.toLowerCase() === other.toLowerCase())"
      >
        take it
      </button>
    </form>
    <p v-if="trouble" class="bad" role="alert">{{ sentence(trouble) }}</p>
  </div>
</template>

<style scoped>
.question {
  background: var(--cobalt-wash);
  border-left: 4px solid var(--cobalt);
  border-radius: var(--corner);
  font-size: 13.5px;
  grid-column: 1 / -1;
  margin: 3px 0 5px;
  padding: 5px 10px;
}

p {
  margin: 0;
}

.sign {
  color: var(--cobalt);
  font: 600 17px var(--slab);
  margin-right: 3px;
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}

.way,
.chip {
  color: var(--cobalt);
  min-height: 26px;
  text-decoration: underline;
}

.chip {
  margin-left: 10px;
}

.row {
  align-items: center;
  display: flex;
  gap: 8px;
  padding: 3px 0;
}

.row > span {
  white-space: nowrap;
}
</style>
