<script setup lang="ts">
import { least } from 'd3-array'
import { computed, onMounted, ref } from 'vue'
import { go } from '@/router'
import { linear } from '@/drawings/linear'
import { useEvening } from '@/stores/evening'
import { usePlan } from '@/stores/plan'
import { useThread } from '@/stores/thread'
import { useTonight } from '@/stores/tonight'
import { moonWords } from './eveningWords'
import { useRegime } from './regime'
import { clockTime } from './time'
import { useWidth } from './width'

defineEmits<{ evening: [] }>()
const store = useEvening()
const plan = usePlan()
const tonight = useTonight()
const regime = useRegime()
const thread = useThread()
onMounted(thread.load)
const strip = ref<HTMLElement | null>(null)
const width = useWidth(strip)
const zone = ref<SVGElement | null>(null)
const isOpen = ref(false)
const HOUR_MS = 3_600_000
const BEFORE_SUNSET_MS = 3 * HOUR_MS
const AFTER_SUNRISE_MS = HOUR_MS
const EDGE = 24

const night = computed(() => store.evening?.night ?? null)
const ends = computed(() => {
  const one = night.value
  if (!one) return [0, 1] as const
  const start = Date.parse(one.start_utc), end = Date.parse(one.end_utc)
  return [
    one.sunset_utc ? Math.max(start, Date.parse(one.sunset_utc) - BEFORE_SUNSET_MS) : start,
    one.sunrise_utc ? Math.min(end, Date.parse(one.sunrise_utc) + AFTER_SUNRISE_MS) : end,
  ] as const
})
const x = computed(() => linear(ends.value, [EDGE, Math.max(EDGE + 1, width.value - EDGE)]))
const at = (utc: string) => x.value(Date.parse(utc))
const lights = computed(() => (night.value?.lights ?? []).map(span => ({
  ...span, x: at(span.start_utc), width: Math.max(0, at(span.end_utc) - at(span.start_utc)),
})))
const moon = computed(() => (night.value?.bodies.find(body => body.body === 'moon')?.up ?? [])
  .map(span => ({ x: at(span.start_utc), width: at(span.end_utc) - at(span.start_utc) }))
  .filter(band => band.width > 0))
const hours = computed(() => {
  const [start, end] = ends.value
  const every = (width.value / ((end - start) / HOUR_MS) < 44 ? 2 : 1) * HOUR_MS
  const first = Math.ceil(start / HOUR_MS) * HOUR_MS
  return Array.from({ length: Math.max(0, Math.floor((end - first) / every) + 1) }, (_, n) => new Date(first + n * every).toISOString())
    .map(utc => ({ x: at(utc), words: clockTime(utc, store.zone).slice(0, 2) }))
})
const endings: Partial<Record<string, string>> = { spoiled: ', to do again', unsafe: ', not safe now' }
/** Set-up steps on the ribbon; those done in the same minutes share one mark. */
const marks = computed(() => {
  const placed: { x: number, titles: string[], spoiled: boolean }[] = []
  for (const step of store.evening?.setup ?? []) {
    const place = at(step.recorded_at_utc)
    const words = `${step.title} ${clockTime(step.recorded_at_utc, store.zone)}${endings[step.state] ?? ''}${step.simulated ? ', practice' : ''}`
    const near = placed.find(one => Math.abs(one.x - place) < 12)
    if (near) {
      near.titles.push(words)
      near.spoiled ||= step.state in endings
    } else placed.push({ x: place, titles: [words], spoiled: step.state in endings })
  }
  return placed
})
/** Planned targets, as long as their minutes. */
const planned = computed(() => (plan.answer?.blocks ?? []).filter(block => block.kind === 'target').map(block => ({
  key: block.target_key ?? '', x: at(block.starts_utc), width: Math.max(3, at(block.ends_utc) - at(block.starts_utc) - 1),
  words: `${clockTime(block.starts_utc, store.zone)} ${block.label}, ${block.minutes} min`,
})))
/** Words beside a place on the ribbon, on the side where there is more room. */
const anchor = (place: number) => place > width.value / 2 ? 'end' : 'start'
const wordX = (place: number) => place > width.value / 2 ? place - 4 : place + 4
const reach = computed(() => regime.leastPx)
/** In the dark a place for a finger in a glove, by day a block's own minutes. */
const reachOf = (width: number) => regime.regime === 'dark' ? Math.max(reach.value, width) : width
/** Where the places for a finger lie over each other it is the nearest block that is meant. */
function nearestPlanned (event: MouseEvent, key: string): string {
  if (!event.detail) return key // by the keys it is the one they are on
  const at = event.clientX - (strip.value?.getBoundingClientRect().left ?? 0)
  return least(planned.value, block => Math.abs(block.x + block.width / 2 - at))?.key ?? key
}
function showPlanned (key: string) {
  tonight.chosenKey = key
  go({ path: '/plan', query: { tab: 'tonight' } })
}
const now = computed(() => {
  const time = Date.parse(store.evening?.now_utc ?? '')
  return time >= ends.value[0] && time <= ends.value[1] ? x.value(time) : null
})
/** The moment that is looked at instead of now: everything of the plan is told for it. */
const wished = computed(() => tonight.atUtc ? at(tonight.atUtc) : null)
const share = computed(() => {
  const time = Date.parse(tonight.atUtc ?? store.evening?.now_utc ?? '')
  return Math.round(100 * Math.min(1, Math.max(0, (time - ends.value[0]) / (ends.value[1] - ends.value[0]))))
})
const STEP_MS = 300_000
function look (time: number) {
  const inside = Math.min(ends.value[1], Math.max(ends.value[0], Math.round(time / STEP_MS) * STEP_MS))
  tonight.atUtc = new Date(inside).toISOString().replace('.000Z', 'Z')
}
function onDown (event: PointerEvent) {
  (event.currentTarget as Element).setPointerCapture(event.pointerId)
  point(event)
}
/** Dragged over a block the moment is meant, not the block. */
function onDrag (event: PointerEvent) {
  if (event.buttons !== 1 || Math.abs(event.movementX) < 2) return
  zone.value?.setPointerCapture(event.pointerId)
  point(event)
}
function onMove (event: PointerEvent) {
  if ((event.currentTarget as Element).hasPointerCapture(event.pointerId)) point(event)
}
const point = (event: PointerEvent) => look(x.value.invert(event.clientX - strip.value!.getBoundingClientRect().left))
function onKey (event: KeyboardEvent) {
  const steps = { ArrowLeft: -3, ArrowRight: 3, PageDown: -12, PageUp: 12 }[event.key]
  if (event.key === 'Escape') tonight.atUtc = null
  else if (steps === undefined) return
  else look(Date.parse(tonight.atUtc ?? store.evening?.now_utc ?? '') + steps * STEP_MS)
  event.preventDefault()
}
const line = computed(() => {
  const one = store.evening
  if (!one) return 'The evening is not known yet.'
  if (!one.night) return 'No place yet: choose one to see the evening.'
  const dark = one.night.dark[0]
  return [
    `now ${clockTime(one.now_utc, store.zone)}`,
    one.night.sunset_utc ? `sunset ${clockTime(one.night.sunset_utc, store.zone)}` : one.night.sun_words,
    dark ? `dark ${clockTime(dark.start_utc, store.zone)}–${clockTime(dark.end_utc, store.zone)}` : one.night.dark_words,
    moonWords(one),
  ].join(' · ')
})
</script>

<template>
  <footer class="ribbon" :class="{ open: isOpen }" aria-label="Evening ribbon">
    <a v-if="thread.words" class="thread" :href="thread.answer?.leads_to" @click.prevent="thread.follow()">
      <span class="quiet small">Next</span> <b>{{ thread.words }}</b></a>
    <button type="button" class="line" :aria-expanded="isOpen"
      :aria-label="`${isOpen ? 'close' : 'evening'}: ${line}`" @click="isOpen = !isOpen">
      <span class="all">{{ line }}</span><span class="short">{{ isOpen ? 'close' : 'evening' }}</span></button>
    <span v-if="!store.evening" class="empty" />
    <button v-else-if="!night" type="button" class="empty plain-button" @click="$emit('evening')">
      No place yet. <b>Choose your place</b> and the evening unrolls here.
    </button>
    <div v-else ref="strip" class="strip">
      <svg :width="width" height="62" role="group" :aria-label="line">
        <g v-for="span in lights" :key="span.start_utc">
          <rect :x="span.x" y="16" :width="span.width" height="26" :class="span.light" />
        </g>
        <rect v-for="band in moon" :key="band.x" :x="band.x" y="12" :width="band.width" height="4" class="moon" />
        <text v-if="moon[0]" :x="moon[0].x + 2" y="9" class="label">Moon up</text>
        <g v-for="hour in hours" :key="hour.x">
          <line :x1="hour.x" :x2="hour.x" y1="42" y2="46" class="tick" />
          <text :x="hour.x" y="57" text-anchor="middle" class="figures hour">{{ hour.words }}</text>
        </g>
        <rect v-if="night" ref="zone" :x="EDGE" y="7" :width="Math.max(0, width - 2 * EDGE)" height="48"
          class="zone" tabindex="0" role="slider" aria-label="Moment of the night"
          :aria-valuemin="0" :aria-valuemax="100" :aria-valuenow="share"
          :aria-valuetext="clockTime(tonight.atUtc ?? store.evening?.now_utc, store.zone)" @keydown="onKey"
          @pointerdown="onDown" @pointermove="onMove" />
        <g v-if="wished !== null" class="wished">
          <line :x1="wished" :x2="wished" y1="8" y2="46" class="now-back" />
          <line :x1="wished" :x2="wished" y1="8" y2="46" class="wish" />
          <text :x="wished + 6" y="9" class="label now-word">{{ clockTime(tonight.atUtc, store.zone) }}</text>
        </g>
        <g v-if="now !== null">
          <line :x1="now" :x2="now" y1="8" y2="46" class="now-back" />
          <line :x1="now" :x2="now" y1="8" y2="46" class="now" />
          <circle :cx="now" cy="8" r="4.5" class="now-dot" />
          <text :x="now + 9" y="9" class="label now-word">now {{ clockTime(store.evening?.now_utc, store.zone) }}</text>
        </g>
        <a v-for="block in planned" :key="block.key" href="/plan" :aria-label="`Planned: ${block.words}`"
          @pointermove="onDrag" @click.prevent="showPlanned(nearestPlanned($event, block.key))">
          <rect :x="block.x + block.width / 2 - reachOf(block.width) / 2" :y="31 - reach / 2"
            :width="reachOf(block.width)" :height="reach" class="hit" />
          <rect :x="block.x" y="24" :width="block.width" height="18" rx="3" class="planned" />
          <text :x="wordX(block.x)" :text-anchor="anchor(block.x)" y="9" class="hover-word">{{ block.words }}</text>
        </a>
        <a v-for="mark in marks" :key="mark.x" href="/setup" :aria-label="`Set-up: ${mark.titles.join('; ')}`"
          @pointermove="onDrag" @click.prevent="go('/setup')">
          <rect :x="mark.x - reach / 2" :y="31 - reach / 2" :width="reach" :height="reach" class="hit" />
          <path :d="`M${mark.x} 20l7 7l-7 7l-7 -7z`" :class="['setup-mark', { spoiled: mark.spoiled }]" />
          <text v-if="mark.titles.length > 1" :x="mark.x - 10" y="31" text-anchor="end"
            class="figures setup-count">{{ mark.titles.length }}</text>
          <text :x="wordX(mark.x)" :text-anchor="anchor(mark.x)" y="9"
            class="hover-word">{{ mark.titles.at(-1) }}</text>
        </a>
      </svg>
    </div>
  </footer>
</template>

<style scoped>
.ribbon { border-top: 1px solid var(--line); background: var(--ground); position: relative; min-width: 0; z-index: 5; display: grid; grid-template-columns: 236px minmax(0, 1fr); }
.thread { display: grid; align-content: center; padding: 0 8px 0 18px; line-height: 1.2; font-size: 15px; color: var(--ink); text-decoration: none; border-right: 1px solid var(--line); }
.thread b { text-decoration: underline; text-underline-offset: 3px; } .thread:hover b { color: var(--jade); }
.thread:focus-visible { outline-offset: -4px; }
.strip { width: 100%; height: 100%; overflow: hidden; grid-column: 2; }
.line { display: none; }
.empty { width: 100%; height: 100%; text-align: center; grid-column: 2; }
.day { fill: var(--light-day); } .civil { fill: var(--light-civil); } .nautical { fill: var(--light-nautical); }
.astronomical { fill: var(--light-astronomical); } .dark { fill: var(--light-dark); stroke: var(--line); stroke-width: 0.5; }
.moon { fill: var(--moon-band); }
.label, .hour { font-size: 12px; fill: var(--ink-quiet); }
.now-word { fill: var(--jade); font-weight: 700; paint-order: stroke; stroke: var(--ground); stroke-width: 4px; }
.hit, .zone { fill: transparent; }
.zone { cursor: ew-resize; } .strip svg { touch-action: none; }
.wish { stroke: var(--ink); stroke-width: 2; stroke-dasharray: 4 3; }
.planned { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 1.5; }
.setup-mark { fill: var(--jade); stroke: var(--ground); stroke-width: 2; }
.setup-mark.spoiled { fill: var(--ground); stroke: var(--brass); stroke-width: 2.5; }
.setup-count { font-size: 12px; font-weight: 700; paint-order: stroke; stroke: var(--ground); stroke-width: 4px; }
.tick { stroke: var(--ink-quiet); }
.now { stroke: var(--jade); stroke-width: 2.5; } .now-back { stroke: var(--ground); stroke-width: 5.5; }
.now-dot { fill: var(--jade); }
@media (max-width: 699px) {
  .ribbon { grid-template-columns: minmax(0, 1fr) auto; }
  .thread { padding: 0 6px 0 12px; font-size: 14px; min-height: max(44px, var(--least)); border-right: 0; } .thread .quiet { display: none; }
  .line { display: block; font: inherit; font-size: 14px; color: inherit; background: none; border: 0; height: 100%; min-width: 72px; padding: 0 12px; }
  .all { display: none; }
  .strip { display: none; }
  .empty { display: none; }
  .open .strip { display: block; position: absolute; bottom: 100%; left: 0; background: var(--ground); border-top: 1px solid var(--line); height: 64px; }
}
</style>
