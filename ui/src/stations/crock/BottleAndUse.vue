<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '../../api/client'
import { figures, life, percent } from '../../words'

// The good as it stands and as it works, side by side at a glance: two mixtures,
// of which one keeps and burns and the other cleans.
const props = defineProps<{ bottle: Schemas['Bottle']; use: Schemas['InUse'] }>()

function phText(ph: Schemas['PhReading'] | undefined): string {
  if (!ph) return '?'
  if (ph.from === 'material') return `${ph.low.toFixed(0)}–${ph.high.toFixed(0)}`
  if (ph.value === undefined) return `${ph.low.toFixed(1)}–${ph.high.toFixed(1)}`
  return ph.value.toFixed(1)
}
/** How sure a pH is, and where from. */
function under(ph: Schemas['PhReading'] | undefined): string {
  if (!ph) return 'not known: measure it'
  if (ph.from === 'material') return 'usual for it: measure it'
  const spread = ph.high - ph.low
  if (ph.from === 'measured') {
    const places = spread < 0.2 ? 2 : 1
    return `measured, ${ph.low.toFixed(places)}–${ph.high.toFixed(places)}`
  }
  return spread >= 0.1 ? `${ph.low.toFixed(1)}–${ph.high.toFixed(1)}` : ''
}

/** What fat and lye make of each other. */
const soapMade = computed(() => {
  const s = props.bottle.saponification
  if (!s) return ''
  const left = s.lye_left_g.high
  const lye = left > 0 ? `up to ${figures(left)} g of lye may find no fat` : 'no lye is left'
  return `${figures(s.soap_g)} g of soap, ${percent(s.fat_left_share.value)} of the fat left, ${lye}; cure ${s.cure_days_from} to ${s.cure_days_to} days`
})

const place = computed(() => (props.bottle.state === 'wet' ? 'In the bottle' : 'In the jar'))
const strength = computed(() => {
  if (props.use.neat) return 'used as it stands'
  return props.use.grams_per_litre ? `${figures(props.use.grams_per_litre.value)} g to a litre` : ''
})
</script>

<template>
  <div class="two">
    <div class="one">
      <span class="where">{{ place }}</span>
      <template v-if="bottle.state === 'wet'">
        <span class="num ph" :class="bottle.verdict">
          <span v-if="bottle.verdict !== 'plain'" class="sign" title="burns">▲</span>pH
          {{ phText(bottle.ph) }}
        </span>
        <span class="soft small">{{ under(bottle.ph) }}</span>
      </template>
      <span v-else class="num ph">{{ bottle.state === 'damp' ? 'pressed' : 'dry' }}</span>
      <span class="small"
        ><template v-if="bottle.keeping.ready_days"
          >ready after about {{ life(bottle.keeping.ready_days) }}, then </template
        >keeps <strong>{{ life(bottle.keeping.days) }}</strong></span
      >
      <span v-if="bottle.keeping.fades_first?.length" class="soft small">
        the scent of {{ bottle.keeping.fades_first.join(', ') }} goes first
      </span>
      <span v-if="soapMade" class="small">{{ soapMade }}</span>
      <span v-if="bottle.keeping.decided_by" class="soft small">
        {{ bottle.keeping.decided_by.name }} {{ figures(bottle.keeping.decided_by.value)
        }}{{ bottle.keeping.decided_by.unit }}, line {{ figures(bottle.keeping.decided_by.limit)
        }}{{ bottle.keeping.decided_by.unit }}
      </span>
      <span
        v-for="p in bottle.preservatives"
        :key="p.material"
        class="small"
        :class="p.works ? 'soft' : 'watch'"
      >
        {{ p.works ? '●' : '▲' }} {{ p.name }} {{ p.works ? 'works' : 'does nothing' }}
      </span>
      <span v-if="bottle.soap_curdled_share && bottle.soap_curdled_share > 0.1" class="small watch">
        ▲ {{ percent(bottle.soap_curdled_share) }} of its soap curdled
      </span>
    </div>
    <div class="one">
      <span class="where">At work</span>
      <span class="num ph" :class="use.verdict">
        <span v-if="use.verdict !== 'plain'" class="sign" title="burns">▲</span>pH {{ phText(use.ph) }}
      </span>
      <span class="soft small">{{ under(use.ph) }}</span>
      <span class="small">{{ strength }}</span>
      <span v-if="use.keeps_days" class="soft small">diluted, keeps {{ life(use.keeps_days) }}</span>
    </div>
  </div>
</template>

<style scoped>
.two {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  display: grid;
  grid-template-columns: 1fr 1fr;
  margin: 8px 0;
}

.one {
  display: flex;
  flex-direction: column;
  padding: 7px 10px;
}

.one + .one {
  border-left: 1px solid var(--clay-line);
}

.where {
  color: var(--ink-soft);
  font-size: 13px;
}

.ph {
  font-size: 24px;
  font-weight: 600;
  line-height: 1.15;
}

.ph.watch,
.watch {
  color: var(--ochre-ink);
}

.sign {
  font-size: 13px;
  margin-right: 4px;
}
</style>
