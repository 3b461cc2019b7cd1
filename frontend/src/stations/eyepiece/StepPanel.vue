<script setup lang="ts">
import { computed, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import FindChart from '@/drawings/FindChart.vue'
import ViewDisc from '@/drawings/ViewDisc.vue'
import SunNotice from '@/shell/SunNotice.vue'
import { minutesSeconds } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'
import { useNoting } from '@/stores/noting'
import DriftLine from './DriftLine.vue'

const emit = defineEmits<{ white: [], beside: [], pack: [], stuck: [] }>()
const store = useEyepiece()
const evening = useEvening()
const noting = useNoting()
const kind = computed(() => store.step?.spot.kind)
const here = computed(() => store.here)
const offer = computed(() => store.screen?.offers[0])

/** What the eye sees on this rung; kept while nobody answers, and shown only for the rung it belongs to. */
const { answer: disc, load } = useAsked<Schema<'Disc'>>(async () => {
  const [telescope, rung, target] = [evening.evening?.telescope?.id, store.rungKey, here.value?.target.key]
  if (!telescope || !rung || !target) return null
  return call<Schema<'Disc'>>(`/powers/disc?${new URLSearchParams({ telescope_id: String(telescope), rung, target })}`)
}, ['evening', 'kit', 'clock'])
watch([() => store.rungKey, () => here.value?.target.key, () => evening.evening?.telescope?.id], () => void load(), { immediate: true })
const shown = computed(() => disc.value?.rung_key === store.rungKey && disc.value?.target.key === here.value?.target.key ? disc.value : null)
const charts = computed(() => here.value?.path?.charts.slice(0, 3) ?? [])
const showsCharts = computed(() => (kind.value === 'point' || store.isBetween) && charts.value.length > 0)
const sun = computed(() => evening.evening?.sun)
const isRefused = computed(() => store.isUnsafe)

const title = computed(() => {
  if (store.isAwaiting) return 'Well done. What comes next?'
  if (!here.value) return store.screen?.offer_words ?? ''
  if (isRefused.value) return here.value.sun.refused ? here.value.sun.instruction : 'The Sun may be up by now.'
  if (store.isWaiting) return `Next: ${offer.value?.label}. ${offer.value?.words}`
  return store.step?.instruction ?? ''
})
const detail = computed(() => {
  if (store.isAwaiting || !here.value) return ''
  if (isRefused.value) return here.value.sun.refused ? here.value.sun.detail : 'Nothing is called safe until the application answers again.'
  if (store.isWaiting) return 'Warm up, or look at anything you like meanwhile.'
  return store.step?.detail ?? ''
})
const buttonWords = computed(() => store.isWaiting ? 'Go there now' : store.step?.button ?? '')
const countdown = computed(() => {
  const left = store.leftS
  if (left === null) return null
  return left >= 0 ? minutesSeconds(left) : `${minutesSeconds(-left)}`
})
const countWords = computed(() => {
  const left = store.leftS ?? 0
  if (left < 0) return 'past the edge: bring it back'
  return `${store.keeping?.is_about ? 'about, ' : ''}to the edge`
})
const staysLong = computed(() => kind.value === 'look' && store.keeping && store.keeping.edge_s === null)
/** The one that was pressed by a finger does not keep the keys: Space is the large button. */
function letGo (event: MouseEvent) {
  if (event.detail > 0 && event.currentTarget instanceof HTMLElement) event.currentTarget.blur()
}
</script>

<template>
  <div class="step" :class="{ refused: isRefused }">
    <h1 class="instruction" aria-live="polite">{{ title }}</h1>
    <p v-if="detail" class="detail quiet">{{ detail }}</p>
    <p v-if="here?.zenith_words && !isRefused" class="zenith">{{ here.zenith_words }}</p>
    <SunNotice v-if="here?.sun_is_up && sun?.is_up" :altitude-deg="sun.altitude_deg" :azimuth-deg="sun.azimuth_deg"
      :until-utc="sun.up_until_utc" :caution="sun.words" :zone="evening.zone" />
    <div v-if="isRefused" class="sun-frame"><b>The Sun.</b> Nothing is pointed now; caps stay on tube and finder.</div>
    <div v-else class="picture" :class="{ alone: kind !== 'look' }">
      <template v-if="showsCharts">
        <FindChart v-for="chart in charts" :key="chart.title" :chart="chart" :start="here?.path?.start_label ?? ''"
          class="chart" />
      </template>
      <template v-else-if="shown && !store.isAwaiting">
        <ViewDisc :disc="shown" class="disc" :class="{ pulse: store.isPushDue }" />
        <div class="keep">
          <template v-if="countdown !== null">
            <p class="count figures" :class="{ due: store.isPushDue }" role="timer">{{ countdown }}</p>
            <p>{{ countWords }}</p>
          </template>
          <p v-else-if="staysLong" class="big">Stays for hours.</p>
          <template v-if="kind === 'look' && here?.push">
            <p>{{ here.push.seen }}</p>
            <p><b>{{ here.push.hand }}</b></p>
            <v-btn size="small" @click="store.centred(); letGo($event)">In the middle again <kbd>c</kbd></v-btn>
            <DriftLine />
          </template>
          <p v-else class="quiet small">{{ shown.mode_words }}</p>
        </div>
      </template>
      <div v-else-if="store.isBetween && (store.screen?.offers.length ?? 0) > 1" class="offers">
        <p class="quiet">{{ store.screen?.offer_words }}</p>
      </div>
    </div>
    <div v-if="store.isBetween && !store.isAwaiting && (store.screen?.offers.length ?? 0) > 1" class="others">
      <span class="quiet small">{{ store.screen?.offer_words }} Or:</span>
      <v-btn v-for="one in store.screen?.offers.slice(1)" :key="one.target_key" variant="text"
        @click="store.choose(one.target_key)">{{ one.label }}</v-btn>
      <v-btn variant="text" :to="{ path: '/plan', query: { find: '' } }">another</v-btn>
    </div>
    <div class="buttons">
      <v-btn v-if="here && !isRefused && !store.isAwaiting" class="main" color="primary" variant="flat" block
        @click="store.forward(); letGo($event)">{{ buttonWords }} <kbd>Space</kbd></v-btn>
      <v-btn v-else-if="store.isAwaiting" class="main" variant="outlined" block @click="store.load()">The next target
        comes with the application's answer</v-btn>
      <v-btn v-else-if="!here" class="main" color="primary" variant="flat" block @click="emit('pack')">Pack up</v-btn>
      <div class="rest">
        <v-btn @click="noting.begin(); letGo($event)">Note it <kbd>o</kbd></v-btn>
        <v-btn v-if="store.step?.softer !== null && store.step?.softer !== undefined"
          @click="store.softer(); letGo($event)">Dimmer and softer <kbd>s</kbd></v-btn>
        <v-btn v-if="store.step?.enough" class="wide-only" @click="store.enough(); letGo($event)">Enough
          <kbd>e</kbd></v-btn>
        <v-btn v-if="here" @click="store.leave('later'); letGo($event)">Later <kbd>l</kbd></v-btn>
        <v-btn v-if="here" class="wide-only" @click="store.leave('skip'); letGo($event)">Skip <kbd>k</kbd></v-btn>
        <v-btn @click="emit('white'); letGo($event)">White light seen <kbd>x</kbd></v-btn>
        <v-btn @click="emit('stuck'); letGo($event)">Stuck? <kbd>b</kbd></v-btn>
        <v-btn class="narrow-only" @click="emit('beside')">People and air</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.step { flex: 1; display: flex; flex-direction: column; gap: 8px; min-height: 0; }
.instruction { font-size: 36px; line-height: 1.15; font-weight: 800; max-width: 24em; }
.detail { font-size: 17px; max-width: 60em; }
.zenith { border-left: 6px solid var(--brass); padding-left: 10px; font-weight: 700; }
.picture { flex: 1 1 180px; min-height: 150px; display: flex; align-items: center; gap: 28px; }
.chart { flex: 0 1 250px; min-width: 0; max-height: 100%; }
.chart :deep(svg) { max-height: calc(100dvh - 560px); min-height: 110px; }
.disc { flex: 0 1 auto; width: auto; height: 100%; aspect-ratio: 1; min-width: 0; max-width: 46%; border-radius: 50%; }
.pulse { box-shadow: 0 0 0 6px var(--brass); animation: pulse 1.2s ease-in-out infinite alternate; }
@keyframes pulse { from { box-shadow: 0 0 0 2px var(--brass); } to { box-shadow: 0 0 0 8px var(--brass); } }
.keep { display: grid; gap: 4px; align-content: center; justify-items: start; font-size: 17px; }
.count { font-size: 62px; line-height: 1; font-weight: 700; }
.count.due { text-decoration: underline; text-decoration-thickness: 5px; text-underline-offset: 8px; }
.big { font-size: 26px; font-weight: 700; }
.others { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 8px; }
.buttons { display: grid; gap: 10px; flex: none; }
.main { min-height: 76px !important; font-size: 23px !important; font-weight: 800 !important; border-radius: 14px; }
:root[data-regime='dark'] .main:not(:hover) { background: var(--jade-wash) !important; color: var(--ink) !important; border: 3px solid var(--ink); }
.rest { display: flex; flex-wrap: wrap; gap: 8px; }
.rest .v-btn { flex: 1 1 auto; min-height: 52px; border: 1px solid var(--edge); padding: 0 10px; }
kbd { font-family: var(--figures); font-size: 14px; font-weight: 500; margin-left: 8px; border: 1px solid currentcolor; border-radius: 5px; padding: 0 5px; }
.narrow-only { display: none; }
@media (max-width: 999px) { .narrow-only { display: inline-grid; } }
@media (max-width: 699px) {
  .instruction { font-size: 27px; }
  .detail { font-size: 15px; display: -webkit-box; -webkit-line-clamp: 3; line-clamp: 3; -webkit-box-orient: vertical; overflow: hidden; }
  .picture { gap: 12px; min-height: 130px; }
  .alone:not(:has(.chart)) { flex-direction: column; justify-content: center; gap: 8px; text-align: center; }
  .alone .disc { flex: 0 1 auto; width: min(64vw, 34dvh); max-width: none; } .alone .keep { flex: none; justify-items: center; }
  .chart { flex: 1 1 0; } .chart:nth-child(3) { display: none; }
  .chart :deep(svg) { max-height: 150px; }
  .disc { flex: 0 0 44%; height: auto; } .keep { flex: 1; min-width: 0; }
  .count { font-size: 40px; } .keep { font-size: 14px; }
  .buttons { display: flex; flex-direction: column-reverse; gap: 8px; }
  .main { min-height: 68px !important; font-size: 20px !important; flex: none; white-space: normal; }
  .rest { gap: 6px; } .rest .v-btn { flex: 1 1 45%; min-width: 0; padding: 0 8px; font-size: 14px; }
  .wide-only, kbd { display: none; }
}
</style>
