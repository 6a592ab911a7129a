<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { Button, Input, InputNumber, Select } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'

import { api, ask, ProblemError, type Schemas } from '../../api/client'
import TypedBefore from '../../parts/TypedBefore.vue'
import { sentence } from '../../words'
import { useMaterials } from '../../api/queries'
import { unsentForm } from '../../api/unsent'
import AboutThis from '../../parts/AboutThis.vue'
import SidePanel from '../../parts/SidePanel.vue'

// A material of the workshop's own: another strength or grade of one that is
// known, whose nature and dangers it takes, or one that is like nothing here.
const props = defineProps<{ was?: Schemas['Material'] }>()
const emit = defineEmits<{ leave: []; kept: [Schemas['Material']] }>()

const client = useQueryClient()
const { data: materials } = useMaterials()

const own = props.was?.own
const { form, back, sent, empty } = unsentForm(`material ${props.was?.own?.version ?? ''}`, {
  name: own?.name ?? '',
  like: own?.like ?? (own ? '' : undefined),
  function: own?.function,
  form: own?.form,
  strength: own?.strength ? own.strength * 100 : undefined,
  density: own?.density,
  piece: own?.piece_g,
  sealed: own?.keeps_sealed_days,
  open: own?.keeps_open_days,
  also: own?.also?.join(', ') ?? '',
  label: own?.label ?? '',
  note: own?.note ?? '',
  hazards: (own?.hazards ?? []).join(', '),
  no_hazards: own?.no_hazards ?? false,
})

const shipped = computed(() => (materials.value ?? []).filter((m) => !m.own && !m.made_here))
const likes = computed(() => [
  { value: '', label: 'nothing here' },
  ...shipped.value.map((m) => ({ value: m.id, label: m.name })),
])
const choices = (words: string[]) => [...new Set(words)].sort().map((value) => ({ value, label: value }))
const functions = computed(() => choices(shipped.value.flatMap((m) => m.functions)))
const forms = computed(() => choices(shipped.value.map((m) => m.form)))
const stranger = computed(() => form.like === '')
const like = computed(() => shipped.value.find((m) => m.id === form.like))

const first = ref<{ focus(): void }>()
onMounted(() => first.value?.focus())

/** What was said; an emptied field is left out. */
function said(): Schemas['OwnMaterial'] {
  const also = form.also
    .split(',')
    .map((s) => s.trim())
    .filter(Boolean)
  const all = {
    label: form.label.trim(),
    also,
    like: form.like,
    function: stranger.value ? form.function : undefined,
    form: stranger.value ? form.form : undefined,
    strength: stranger.value ? undefined : (form.strength ?? 0) / 100,
    density: form.density,
    piece_g: form.piece,
    keeps_sealed_days: form.sealed,
    keeps_open_days: form.open,
    note: form.note.trim(),
    hazards: form.hazards
      .split(/[\s,;]+/)
      .map((h) => h.trim().toUpperCase())
      .filter(Boolean),
    no_hazards: form.no_hazards,
    version: own?.version,
  }
  return { name: form.name.trim(), ...Object.fromEntries(Object.entries(all).filter(([, v]) => v)) }
}

const keep = useMutation({
  mutationFn: () =>
    props.was
      ? ask(
          api.PUT('/api/materials/{material}', {
            params: { path: { material: props.was.id } },
            body: said(),
          }),
        )
      : ask(api.POST('/api/materials', { body: said() })),
  onSuccess: async (m) => {
    sent()
    await Promise.all([
      client.invalidateQueries({ queryKey: ['materials'] }),
      client.invalidateQueries({ queryKey: ['shelf'] }),
    ])
    emit('kept', m)
  },
})
/** The field that was refused. */
const wrong = computed(() =>
  keep.error.value instanceof ProblemError ? keep.error.value.problem.field : undefined,
)
const status = (field: string) => (wrong.value === field ? 'error' : undefined)
</script>

<template>
  <SidePanel :title="was ? `Change ${was.name}` : 'A material of your own'" @leave="$emit('leave')">
    <form class="field-column" @submit.prevent="keep.mutate()">
      <TypedBefore :back="back" @empty="empty" />
      <label>
        <span class="field-label">What you call it</span>
        <Input
          ref="first"
          v-model:value="form.name"
          name="own-name"
          :status="status('name')"
          placeholder="pickling vinegar"
        />
      </label>
      <label>
        <span class="field-label">It is like</span>
        <Select
          v-model:value="form.like"
          :options="likes"
          :status="status('like')"
          show-search
          option-filter-prop="label"
          placeholder="a material that is known"
          class="wide"
        />
      </label>
      <p v-if="stranger" class="soft small">
        Its dangers are not known here then, and every formula with it says so. Read its pack and its safety
        sheet; local codes and a licensed professional decide.
      </p>
      <p v-else-if="like" class="soft small">
        It takes the nature and the dangers of {{ like.name.toLowerCase() }}. Much stronger than it, it may
        have others, and formulas say so. What you leave empty is as in it.
      </p>
      <div v-if="stranger" class="pair">
        <label>
          <span class="field-label">What it is for</span>
          <Select
            v-model:value="form.function"
            :options="functions"
            :status="status('function')"
            class="wide"
          />
        </label>
        <label>
          <span class="field-label">Its form</span>
          <Select v-model:value="form.form" :options="forms" :status="status('form')" class="wide" />
        </label>
      </div>
      <div class="pair">
        <label v-if="!stranger">
          <span class="field-label">Strength, by mass<AboutThis of="strength" /></span>
          <InputNumber
            v-model:value="form.strength"
            name="own-strength"
            :min="0"
            :max="100"
            :status="status('strength')"
            addon-after="%"
          />
        </label>
        <label :style="{ order: stranger ? 0 : 1 }">
          <span class="field-label">A piece weighs</span>
          <InputNumber v-model:value="form.piece" :min="0" addon-after="g" />
        </label>
        <label>
          <span class="field-label">A millilitre weighs</span>
          <InputNumber
            v-model:value="form.density"
            name="own-density"
            :min="0"
            :max="5"
            :step="0.01"
            :status="status('density')"
            addon-after="g"
          />
        </label>
        <label>
          <span class="field-label">Keeps sealed</span>
          <InputNumber v-model:value="form.sealed" :min="0" :precision="0" addon-after="days" />
        </label>
        <label>
          <span class="field-label">and once open</span>
          <InputNumber
            v-model:value="form.open"
            :min="0"
            :precision="0"
            :status="status('open_days')"
            addon-after="days"
          />
        </label>
      </div>
      <label>
        <span class="field-label">Other names, with commas</span>
        <Input v-model:value="form.also" name="own-also" />
      </label>
      <label>
        <span class="field-label">As it stands on a label</span>
        <Input v-model:value="form.label" :placeholder="like?.label ?? form.name" />
      </label>
      <label>
        <span class="field-label"
          >Hazard statements on its safety data sheet, by code<AboutThis of="statements"
        /></span>
        <Input
          v-model:value="form.hazards"
          name="hazards"
          placeholder="H315, H318"
          :disabled="form.no_hazards"
        />
      </label>
      <label class="tick">
        <input
          v-model="form.no_hazards"
          type="checkbox"
          name="no-hazards"
          :disabled="!!form.hazards.trim()"
        />
        its sheet has none
      </label>
      <label>
        <span class="field-label">Worth knowing</span>
        <Input v-model:value="form.note" :maxlength="400" />
      </label>
      <p v-if="keep.isError.value" class="bad" role="alert">{{ sentence(keep.error.value) }}</p>
      <Button
        type="primary"
        html-type="submit"
        :disabled="!form.name.trim() || form.like === undefined || keep.isPending.value"
      >
        Keep
      </Button>
    </form>
  </SidePanel>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
