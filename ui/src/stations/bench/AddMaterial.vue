<script setup lang="ts">
import { computed, ref } from 'vue'

import { useMaterials } from '../../api/queries'
import CautionList from '../../parts/CautionList.vue'
import type { Of } from '../../api/batch'
import { grams } from '../../words'

// Something that the formula does not have: what it would do is worked out before it
// is poured.
const props = defineProps<{ of: Of; material?: string; name?: string; amount?: string; why?: string }>()
const emit = defineEmits<{ added: [] }>()
const { data: materials } = useMaterials()
const what = ref(props.name ?? '')
const much = ref(props.amount ?? '')
const body = computed(() => ({
  material: props.material && what.value === props.name ? props.material : what.value,
  amount: much.value,
  why: props.why,
}))
const tried = props.of.tryOut
function add() {
  props.of.add.mutate(body.value, { onSuccess: () => emit('added') })
}
</script>

<template>
  <form class="add" @submit.prevent="tried.mutate(body)">
    <label>
      <span class="field-label">what</span>
      <input v-model="what" name="add-material" list="bench-materials" @input="tried.reset()" />
    </label>
    <datalist id="bench-materials">
      <option v-for="m in materials ?? []" :key="m.id" :value="m.name" />
    </datalist>
    <label>
      <span class="field-label">how much</span>
      <input v-model="much" name="add-amount" placeholder="1/2 tsp" @input="tried.reset()" />
    </label>
    <button class="big-do" type="submit" :disabled="!what || !much || tried.isPending.value">
      What would it do?
    </button>
  </form>
  <section
    v-if="tried.data.value"
    class="tried"
    :class="{ spoils: tried.data.value.spoils }"
    aria-live="polite"
  >
    <p>
      <strong>{{ grams(tried.data.value.grams) }} {{ tried.data.value.name }}</strong>
      {{ tried.data.value.spoils ? 'would spoil it or could hurt:' : 'does no harm that can be worked out.' }}
    </p>
    <CautionList v-if="tried.data.value.cautions.length" :cautions="tried.data.value.cautions" />
    <ul v-if="tried.data.value.says.length">
      <li v-for="s in tried.data.value.says" :key="s">{{ s }}</li>
    </ul>
    <button class="big-do" type="button" :disabled="of.add.isPending.value" @click="add">
      {{ tried.data.value.spoils ? 'Add it all the same' : 'Add it' }}
    </button>
  </section>
</template>

<style scoped>
.add {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 10px 0;
}

input {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  font: 19px var(--slab);
  height: 56px;
  padding: 0 12px;
  width: 190px;
}

.tried {
  border-left: 5px solid var(--celadon);
  font-size: 17px;
  padding: 4px 14px;
}

.tried.spoils {
  background: var(--oxblood-wash);
  border-color: var(--oxblood);
}
</style>
