<script setup lang="ts">
import { defineAsyncComponent, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { session } from '../api/session'
import { atFoot, atWork, stations } from '../registry'
import { switchTheme, themeName } from '../styles/theme'
import AwayBand from './AwayBand.vue'
import FaultBand from './FaultBand.vue'
import Glyph from '../parts/Glyph.vue'
import RailLink from './RailLink.vue'
import Timers from './Timers.vue'
import { useKeys, useSingleKeys } from '../parts/useKeys'
import WaitingStrip from './WaitingStrip.vue'

const FindBox = defineAsyncComponent(() => import('./FindBox.vue'))
const KeysHelp = defineAsyncComponent(() => import('./KeysHelp.vue'))

const [work, foot] = [atWork(), atFoot()]

const router = useRouter()
const route = useRoute()
const finding = ref(false)
const helping = ref(false)
/** Whether what stands at the foot of the rail is unfolded, on a phone. */
const more = ref(false)

useSingleKeys(
  [
    { keys: `1 – ${work.length}`, does: 'go to a station' },
    { keys: '/', does: 'find or do' },
    { keys: '?', does: 'these keys' },
  ],
  {
    ...Object.fromEntries(work.map((s, i) => [String(i + 1), () => void router.push(`/${s.name}`)])),
    '/': () => (finding.value = true),
    '?': () => (helping.value = !helping.value),
  },
)
useKeys([{ keys: 'Ctrl K', does: 'find or do, from anywhere' }], (e) => {
  if (e.key === 'Escape') helping.value = more.value = false
  if (e.key !== 'k' || !(e.ctrlKey || e.metaKey)) return
  e.preventDefault()
  finding.value = true
})

/** The heading of where one is: what is read out first, and where Tab goes on from. */
function focusPlace() {
  const heading = body.value?.querySelector<HTMLElement>('h1')
  if (heading) heading.tabIndex = -1
  ;(heading ?? body.value)?.focus({ preventScroll: true })
}

// moving to a station takes the focus there, and names the window after it
const body = ref<HTMLElement>()
const placeName = () => stations.find((s) => s.name === route.name)?.title ?? ''
watch(
  () => route.name,
  async (_, before) => {
    document.title = `${placeName()} · Keen Crock`
    await nextTick()
    if (before && !body.value?.contains(document.activeElement)) focusPlace()
  },
  { immediate: true },
)
</script>

<template>
  <div class="frame">
    <button class="skip" type="button" @click="focusPlace()">Skip to the work</button>
    <nav class="rail" aria-label="Stations">
      <RailLink v-for="(s, i) in work" :key="s.name" :station="s" :number="i + 1" />
      <span class="gap" />
      <button
        class="plain station more"
        :class="{ here: foot.some((f) => f.name === route.name) }"
        type="button"
        :aria-expanded="more"
        @click="more = !more"
      >
        <Glyph path="M5 12h.01M12 12h.01M19 12h.01" />
        <span>More</span>
      </button>
      <div class="foot" :class="{ open: more }" @click="more = false">
        <button
          class="plain station"
          type="button"
          :title="themeName === 'slip' ? 'Dark, like the inside of a kiln' : 'Light, like white slip'"
          @click="switchTheme"
        >
          <Glyph name="moon" />
          <span>{{ themeName === 'slip' ? 'Kiln' : 'Slip' }}</span>
        </button>
        <RailLink v-for="s in foot" :key="s.name" :station="s" />
      </div>
    </nav>
    <header class="strip">
      <strong class="place">{{ session?.workshop.name }}</strong>
      <WaitingStrip />
      <button class="plain find" type="button" title="Find or do (/)" @click="finding = true">
        <Glyph name="find" :size="18" /> <span>Find or do</span> <kbd>/</kbd>
      </button>
    </header>
    <div class="bands">
      <AwayBand />
      <FaultBand />
      <Timers />
    </div>
    <main ref="body" class="station-body" tabindex="-1" :aria-label="placeName()"><slot /></main>
    <FindBox v-if="finding" @leave="finding = false" />
    <KeysHelp v-if="helping" @leave="helping = false" />
  </div>
</template>

<style scoped>
.skip {
  background: var(--cobalt);
  border: 0;
  color: var(--on-cobalt);
  left: 0;
  padding: 10px 18px;
  position: absolute;
  top: -100px;
  z-index: 30;
}

.skip:focus {
  top: 0;
}

.frame {
  display: grid;
  grid-template: var(--strip) auto 1fr / var(--rail) 1fr;
  height: 100%;
}

.rail {
  align-items: stretch;
  background: var(--slip-sunk);
  border-right: 1px solid var(--clay-line);
  display: flex;
  flex-direction: column;
  grid-row: 1 / 4;
  overflow: hidden auto;
  padding: 8px 0;
}

.station {
  align-items: center;
  border-left: 3px solid transparent;
  color: var(--ink-soft);
  cursor: pointer;
  display: flex;
  flex-direction: column;
  font-size: 12px;
  gap: 2px;
  padding: 9px 3px 9px 0;
  text-align: center;
  text-decoration: none;
}

.station:hover {
  color: var(--cobalt);
}

.station.here {
  background: var(--slip);
  border-left-color: var(--cobalt);
  color: var(--cobalt);
}

.gap {
  flex: 1;
}

.foot {
  display: contents;
}

.more {
  display: none;
}

.strip {
  align-items: center;
  border-bottom: 1px solid var(--clay-line);
  display: flex;
  gap: 20px;
  min-width: 0;
  padding: 0 16px;
}

.place {
  font-family: var(--slab);
  font-size: 17px;
  white-space: nowrap;
}

.find {
  align-items: center;
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  color: var(--ink-soft);
  display: flex;
  gap: 6px;
  padding: 3px 8px;
  white-space: nowrap;
}

kbd {
  border: 1px solid var(--clay-line);
  border-radius: var(--corner);
  font: 12px var(--text);
  padding: 0 5px;
}

.station-body {
  grid-row: 3;
  min-height: 0;
  min-width: 0;
  overflow: auto;
}

@media (max-width: 700px) {
  .frame {
    grid-template: var(--strip) auto 1fr 58px / 1fr;
  }

  .rail {
    border: 0;
    flex-direction: row;
    grid-row: 4;
    justify-content: space-around;
    overflow: visible;
    order: 3;
    padding: 0;
  }

  .station {
    border-left: 0;
    border-top: 3px solid transparent;
    flex: 1;
    padding: 6px 2px;
  }

  .station.here {
    border-top-color: var(--cobalt);
  }

  .more {
    display: flex;
  }

  .foot {
    background: var(--slip-sunk);
    border: 1px solid var(--clay-line);
    bottom: 58px;
    display: none;
    flex-direction: row;
    position: absolute;
    right: 0;
    z-index: 20;
  }

  .foot.open {
    display: flex;
  }

  .foot .station {
    min-width: 84px;
  }

  .gap,
  .find span,
  .place {
    display: none;
  }
}
</style>
