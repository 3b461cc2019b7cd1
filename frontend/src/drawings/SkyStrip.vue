<script setup lang="ts">
import { least } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { curveCatmullRom, line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import { clockTime } from '@/shell/time'
import { FINGER_PX } from '@/shell/regime'
import { useWidth } from '@/shell/width'
import { besideDots } from './besideDots'
import { POINTS, pieces, skylinePath } from './horizon'

/** The sky around one's place: azimuth across, altitude up, one's own skyline, and how targets go. */
const props = defineProps<{
  prospects: readonly Schema<'Prospect'>[]
  chosenKey: string | null
  skyline: readonly Schema<'SkylinePoint'>[]
  domes: readonly Schema<'LightDome'>[]
  sun: Schema<'SunWatch'>
  zone: string
}>()
const emit = defineEmits<{ choose: [key: string] }>()
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)
const HEIGHT = 180
const GROUND = 152
const NAMED = 9
const x = computed(() => scaleLinear([0, 360], [16, Math.max(17, width.value - 16)]))
const y = scaleLinear([0, 90], [GROUND, 14])
const roof = computed(() => skylinePath(props.skyline, x.value, y))
const up = computed(() => props.prospects.filter(one => one.when !== 'not tonight' && one.altitude_deg > 0 && !one.is_hidden))
const chosen = computed(() => props.prospects.find(one => one.target.key === props.chosenKey) ?? null)
/** The dots that get a word: the chosen one first, then the list's own order. */
const places = computed(() => {
  const named = [...up.value].sort((a, b) => Number(b.target.key === props.chosenKey) - Number(a.target.key === props.chosenKey))
  const dots = named.map((one, n) => ({
    key: one.target.key, label: n < NAMED ? shortLabel(one.target.label) : '', x: x.value(one.azimuth_deg), y: y(one.altitude_deg), sun: false,
  }))
  if (props.sun.is_up) dots.unshift({ key: 'sun', label: 'Sun', x: x.value(props.sun.azimuth_deg), y: y(Math.max(0, props.sun.altitude_deg)), sun: true })
  return besideDots(dots, width.value)
})
const shortLabel = (label: string) => label.split(' ')[0] === 'NGC' || label.split(' ')[0] === 'IC' ? label.split(' ').slice(0, 2).join(' ') : label.split(' ')[0]!
const path = line<Schema<'TrackPoint'>>().x(point => x.value(point.azimuth_deg)).y(point => y(point.altitude_deg)).curve(curveCatmullRom)
const tracks = computed(() => up.value.filter(one => one.target.key !== props.chosenKey)
  .flatMap(one => pieces(one.track).map((piece, n) => ({ key: `${one.target.key}-${n}`, d: path([...piece]) ?? '' }))))
const thick = computed(() => pieces(chosen.value?.track ?? []).map((piece, n) => ({ key: n, d: path([...piece]) ?? '' })))
const ticks = computed(() => (chosen.value?.track ?? []).slice(1, -1).map(point => ({
  x: x.value(point.azimuth_deg), y: y(point.altitude_deg), words: clockTime(point.at_utc, props.zone).slice(0, 2),
})))
const glows = computed(() => props.domes.map((dome, n) => ({
  key: n, x: x.value(dome.azimuth_deg), rx: (x.value(dome.width_deg) - x.value(0)) / 2, ry: 24 + 16 * Math.min(3, dome.brighter_mag),
})))
/** What stands nearest to a press is taken, as near as a finger can tell. */
const svg = ref<SVGSVGElement | null>(null)
function choose (event: MouseEvent) {
  const box = svg.value!.getBoundingClientRect()
  const far = (place: typeof places.value[number]) => Math.hypot(place.x - event.clientX + box.left, place.y - event.clientY + box.top)
  const nearest = least(places.value.filter(place => !place.sun), far)
  if (nearest && far(nearest) <= FINGER_PX) emit('choose', nearest.key)
}
</script>

<template>
  <div ref="host" class="strip">
    <svg ref="svg" :width="width" :height="HEIGHT" role="group" @click="choose"
      aria-label="The sky from north through south to north, altitude upwards">
      <ellipse v-for="glow in glows" :key="glow.key" :cx="glow.x" :cy="GROUND" :rx="glow.rx" :ry="glow.ry"
        class="glow" />
      <g v-for="altitude in [30, 60]" :key="altitude">
        <line x1="16" :x2="width - 16" :y1="y(altitude)" :y2="y(altitude)" class="grid" />
        <text x="18" :y="y(altitude) - 3" class="figures small-word">{{ altitude }}°</text>
      </g>
      <path v-for="track in tracks" :key="track.key" :d="track.d" class="track" />
      <path v-for="track in thick" :key="track.key" :d="track.d" class="track thick" />
      <path :d="roof" class="earth" />
      <g v-for="tick in ticks" :key="tick.words">
        <circle :cx="tick.x" :cy="tick.y" r="3.5" class="tick" />
        <text :x="tick.x" :y="tick.y + 16" text-anchor="middle" class="figures small-word halo">{{ tick.words }}</text>
      </g>
      <text v-for="[word, azimuth] in POINTS" :key="azimuth" :x="x(azimuth)" :y="HEIGHT - 9" text-anchor="middle"
        class="point">{{ word }}</text>
      <g v-for="place in places" :key="place.key" :class="{ sun: place.sun, chosen: place.key === chosenKey }">
        <circle :cx="place.x" :cy="place.y" :r="place.sun ? 9 : place.key === chosenKey ? 7 : 4.5" class="dot" />
        <circle v-if="!place.sun" :cx="place.x" :cy="place.y" :r="FINGER_PX" class="hit" />
        <text v-if="place.label" :x="place.word_x" :y="place.word_y + 5" class="name">{{ place.label }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.strip { border: 1px solid var(--line); border-radius: 10px; overflow: hidden; flex: none; background: var(--surface); }
svg { display: block; }
.earth { fill: var(--jade-wash); stroke: var(--ink-quiet); stroke-width: 1.5; }
.glow { fill: var(--brass-wash); }
.grid { stroke: var(--line); stroke-dasharray: 3 5; }
.small-word { font-size: 12px; fill: var(--ink-quiet); }
.point { font-size: 13px; font-weight: 700; }
.track { fill: none; stroke: var(--ink-quiet); stroke-width: 0.8; opacity: 0.55; }
.thick { stroke: var(--jade); stroke-width: 3.5; opacity: 1; }
.tick { fill: var(--surface); stroke: var(--jade); stroke-width: 2; }
.dot { fill: var(--ink-quiet); }
.chosen .dot { fill: var(--jade); }
.hit { fill: transparent; cursor: pointer; }
.sun .dot { fill: none; stroke: var(--sun); stroke-width: 4; stroke-dasharray: 4 2; }
.sun .name { fill: var(--sun); }
.name, .halo { paint-order: stroke; stroke: var(--surface); stroke-width: 4px; }
.name { font-size: 14px; font-weight: 600; pointer-events: none; }
.chosen .name { font-weight: 800; }
</style>
