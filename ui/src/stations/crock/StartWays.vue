<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import { grams, life } from '../../words'

// The schools of one kind of good: what they differ in, what goes in, what to mind.
defineProps<{
  ways: Schemas['Starter'][]
  chosen: string
}>()
defineEmits<{ choose: [Schemas['Starter']] }>()

const makes = (s: Schemas['Starter']) =>
  s.pieces ? `${s.pieces} pieces` : `${grams(s.makes_g)}${s.uses ? `, about ${Math.round(s.uses)} uses` : ''}`
</script>

<template>
  <ul>
    <li v-for="s in ways" :key="s.id" :class="{ on: s.id === chosen }">
      <h2>{{ s.name }}</h2>
      <p class="school soft">{{ s.school }}</p>
      <p>{{ s.differs }}</p>
      <p class="small">
        <template v-for="(l, i) in s.lines" :key="l.material"
          ><template v-if="i">, </template>{{ l.name.toLowerCase() }}</template
        >. Makes {{ makes(s) }}; keeps about {{ life(s.keeps_days) }}.
      </p>
      <CautionList v-if="s.cautions.length" :cautions="s.cautions" />
      <button type="button" class="take" @click="$emit('choose', s)">Make it this way</button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  border-top: 4px solid var(--clay);
  padding: 12px 0 18px;
}

li.on {
  border-color: var(--cobalt);
}

p {
  margin: 4px 0 8px;
}

.school {
  font-style: italic;
  margin-top: 0;
}

.take {
  background: var(--slip-raised);
  border: 1px solid var(--cobalt);
  border-radius: var(--corner);
  color: var(--cobalt);
  cursor: pointer;
  font: 600 16px var(--text);
  min-height: 48px;
  padding: 0 18px;
}
</style>
