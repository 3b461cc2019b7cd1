<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import AppHeader from './shell/AppHeader.vue'
import DamageNotice from './shell/DamageNotice.vue'
import EveningRibbon from './shell/EveningRibbon.vue'
import NoticeBar from './shell/NoticeBar.vue'
import StationRail from './shell/StationRail.vue'
import WorkingLine from './shell/WorkingLine.vue'
import { go, notLoaded } from './router'
import { useDriftTimer } from '@/stores/driftTimer'
import { useEvening } from '@/stores/evening'
import { useEvents } from '@/stores/events'
import { watchFocus } from './shell/focusPlace'
import { alsoLater, fetchAhead, lazily, loadNoteSheet, onceOpen } from './shell/lazily'
import { useKeys } from './shell/keys'
import { useNotices } from './shell/notices'
import { useNoting } from '@/stores/noting'
import { usePlan } from '@/stores/plan'
import { useRegime } from './shell/regime'
import { useRungs } from '@/stores/rungs'
import { STATIONS } from './shell/stations'
import { useSums } from './shell/sums'
import { announced, watchWhite } from './shell/whiteLight'

const NoteSheet = lazily(loadNoteSheet)
const EveningSheet = lazily(() => import('./shell/EveningSheet.vue'))
const SumDialog = lazily(() => import('./shell/SumDialog.vue'))
const WhiteNotice = lazily(() => import('./shell/WhiteNotice.vue'))
const KeyHelp = lazily(() => import('./shell/KeyHelp.vue'))

const route = useRoute()
const regime = useRegime()
const evening = useEvening()
const rungs = useRungs()
const noting = useNoting()
const notices = useNotices()
const drift = useDriftTimer()
const plan = usePlan()
/** Nobody answers for now: it is said without moving what is under a finger. */
const passing = computed(() => !!evening.refusal?.isLost && !!evening.evening)
/** At the eyepiece the station itself says, quietly, that nobody answers. */
const isQuiet = computed(() => route.name === 'eyepiece' && passing.value)
const eveningIsOpen = ref(false)
const keysAreOpen = ref(false)
const station = ref<HTMLElement | null>(null)
const sums = useSums()
const eveningIsWanted = onceOpen(() => eveningIsOpen.value)
const noteIsWanted = onceOpen(() => noting.opened !== null)
const sumIsWanted = onceOpen(() => sums.open !== null)
const whiteIsWanted = onceOpen(() => announced.value !== null)
const keysAreWanted = onceOpen(() => keysAreOpen.value)

useKeys(key => {
  const station = STATIONS[Number(key) - 1]
  if (key >= '1' && station) go(`/${station.name}`)
  else if (key === ',') rungs.step(-1)
  else if (key === '.') rungs.step(1)
  else if (key === 'n') regime.next()
  else if (key === ' ') { if (route.name !== 'eyepiece') void drift.toggle() }
  else if (key === 'o') noting.begin()
  else if (key === '/') {
    go({ path: '/plan', query: { find: '' } })
    if (evening.evening && !evening.evening.site) notices.say('Say where you stand first: what can be found depends on it.')
  }
  else if (key === 'a') void plan.again()
  else if (key === '?') keysAreOpen.value = true
})

watchWhite()
watchFocus()
useEvents().start()
onMounted(async () => {
  await evening.refresh()
  alsoLater(...STATIONS.map(one => one.load))
  fetchAhead()
})
</script>

<template>
  <v-app>
    <a class="skip" href="#station" @click.prevent="station?.focus()">Skip to the station</a>
    <div class="frame">
      <AppHeader @evening="eveningIsOpen = true" @keys="keysAreOpen = true" />
      <StationRail class="rail" />
      <main id="station" ref="station" class="station" tabindex="-1" :aria-label="String(route.name ?? '')">
        <p v-if="regime.regime === 'dark'" class="forced notice-above">This device forces colours of its own. Dark makes
          them red, but not dark: turn its brightness down.</p>
        <WorkingLine class="notice-above" />
        <DamageNotice class="notice-above" />
        <p v-if="evening.refusal && !isQuiet" class="refusal" :class="{ passing }" role="alert">
          {{ evening.refusal.words }}</p>
        <section v-if="notLoaded" class="not-loaded" role="alert">
          <h1>{{ STATIONS.find(one => one.name === notLoaded?.name)?.word }} could not be loaded</h1>
          <p>The application does not answer, so the code of this station did not come. What you typed is kept.</p>
          <v-btn color="primary" variant="flat" @click="go(notLoaded.path)">Try again</v-btn>
        </section>
        <router-view v-slot="{ Component }">
          <component :is="Component" @evening="eveningIsOpen = true" />
        </router-view>
      </main>
      <EveningRibbon class="ribbon" @evening="eveningIsOpen = true" />
    </div>
    <EveningSheet v-if="eveningIsWanted" v-model="eveningIsOpen" />
    <NoteSheet v-if="noteIsWanted" />
    <SumDialog v-if="sumIsWanted" />
    <WhiteNotice v-if="whiteIsWanted" />
    <KeyHelp v-if="keysAreWanted" v-model="keysAreOpen" />
    <Teleport to="body">
      <NoticeBar />
      <div v-if="regime.paneIsNeeded" class="pane" :style="{ background: regime.paneColour }" />
    </Teleport>
  </v-app>
</template>

<style scoped>
.frame {
  display: grid; height: 100dvh; width: 100%;
  grid-template: var(--header-height) minmax(0, 1fr) var(--ribbon-height) / var(--rail-width) minmax(0, 1fr);
  grid-template-areas: 'head head' 'rail station' 'ribbon ribbon';
}
.skip { position: absolute; z-index: 3000; left: 8px; top: -80px; background: var(--surface); border: 2px solid var(--jade); border-radius: 10px; padding: 0 18px; min-height: 48px; display: flex; align-items: center; }
.skip:focus { top: 4px; }
.station:focus { outline: none; } .station:focus-visible { outline: 3px solid var(--jade); outline-offset: -3px; }
.rail { grid-area: rail; }
.station { grid-area: station; min-height: 0; min-width: 0; position: relative; display: flex; flex-direction: column; }
.station > :not(.refusal, .notice-above, .not-loaded) { flex: 1 1 0; min-height: 0; }
.ribbon { grid-area: ribbon; }
.not-loaded { position: absolute; inset: 0; z-index: 4; background: var(--ground); display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.forced { display: none; padding: 8px 16px; border-bottom: 1px solid var(--line); }
@media (forced-colors: active) { .forced { display: block; } }
.refusal { background: var(--brass-wash); padding: 12px 16px; }
.passing { position: absolute; inset: auto 0 0; z-index: 5; pointer-events: none; border-top: 1px solid var(--brass); }
@media (max-width: 699px) {
  .frame {
    grid-template: auto minmax(0, 1fr) var(--ribbon-height) 64px / minmax(0, 1fr);
    grid-template-areas: 'head' 'station' 'ribbon' 'rail';
  }
}
</style>
