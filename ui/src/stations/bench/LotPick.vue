<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'

import CodeReader from '../../parts/CodeReader.vue'
import { canReadCodes } from '../../parts/codes'
import type { Schemas } from '../../api/client'
import { grams, onScale } from '../../words'

// The bags a line can come from, one of them picked.
const props = defineProps<{ lots: Schemas['BatchLot'][]; stepG: number }>()
const picked = defineModel<string>({ required: true })

const scanning = ref(false)
const wrong = ref('')

/** The code of a bag was read: that one is taken, where this line can come from it. */
function scanned(text: string) {
  scanning.value = false
  const found = props.lots.find((l) => l.code.toLowerCase() === text.trim().toLowerCase())
  wrong.value = found ? '' : `No bag for this line has the code “${text.slice(0, 60)}”.`
  if (found) picked.value = found.lot
}

function hint(l: Schemas['BatchLot']): string {
  if (l.suggested_g > 0) return `take ${onScale(l.suggested_g, props.stepG)}`
  return l.past ? 'past its date' : 'not needed'
}
</script>

<template>
  <div class="lots" role="radiogroup" aria-label="From which bag">
    <button
      v-for="l in lots"
      :key="l.lot"
      class="lot"
      type="button"
      role="radio"
      :aria-checked="l.lot === picked"
      @click="picked = l.lot"
    >
      <span class="num lot-code">{{ l.code }}</span>
      <span>{{ hint(l) }}</span>
      <span class="soft small">
        {{ grams(l.available_g) }} left<template v-if="l.rounds">
          · served {{ l.rounds }} {{ l.rounds === 1 ? 'round' : 'rounds' }}, weaker</template
        ><template v-if="l.clumped"> · clumped: crush it</template
        ><template v-if="l.weighed_g > 0"> · {{ grams(l.weighed_g) }} in the bowl</template>
      </span>
    </button>
    <p v-if="lots.length === 0" class="bad">No lot of it is on the shelf.</p>
    <Button v-if="canReadCodes && lots.length" class="scan" @click="scanning = !scanning">
      {{ scanning ? 'Close the camera' : 'Scan the bag' }}
    </Button>
    <CodeReader v-if="scanning" class="reader" @read="scanned" />
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.lots {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}

.lot {
  background: var(--slip-raised);
  border: 2px solid var(--clay-line);
  border-radius: var(--corner);
  color: inherit;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  font: inherit;
  min-width: 150px;
  padding: 10px 16px;
  text-align: left;
}

.lot[aria-checked='true'] {
  background: var(--cobalt-wash);
  border-color: var(--cobalt);
}

.scan {
  min-height: 44px;
}

.reader,
.bad {
  flex-basis: 100%;
}

.lot-code {
  font-size: 26px;
  font-weight: 600;
  line-height: 1.1;
}
</style>
