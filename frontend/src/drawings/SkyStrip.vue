<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import { useWidth } from '@/shell/width'

const props = defineProps<{ sights: readonly Schema<'Sight'>[], sun: Schema<'SunWatch'> }>()
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)
const HEIGHT = 128
const GROUND = 104
const DOT = 9
const LETTER = 8
const LINE = 17
const POINTS = [['N', 0], ['NE', 45], ['E', 90], ['SE', 135], ['S', 180], ['SW', 225], ['W', 270], ['NW', 315], ['N', 360]] as const
const x = computed(() => scaleLinear([0, 360], [16, Math.max(17, width.value - 16)]))
const y = scaleLinear([0, 90], [GROUND, 12])
interface Place { key: string, label: string, x: number, y: number, sun: boolean }

/** Give each place a spot for its word that meets no dot and no other word, as far as there is one. */
function withWords (places: readonly Place[]) {
  const written = places.map(place => ({ x: place.x - DOT, y: place.y, width: DOT * 2 }))
  return places.map(place => {
    const width_px = place.label.length * LETTER
    const spots = [0, LINE, -LINE].flatMap(shift => [
      { x: place.x + DOT + 3, y: place.y + shift, width: width_px },
      { x: place.x - DOT - 3 - width_px, y: place.y + shift, width: width_px },
    ]).filter(spot => spot.x > 0 && spot.x + width_px < width.value)
    const isFree = (spot: { x: number, y: number }) => written.every(other =>
      Math.abs(other.y - spot.y) >= LINE - 2 || other.x + other.width < spot.x || other.x > spot.x + width_px)
    const spot = spots.find(isFree) ?? spots[0] ?? { x: place.x, y: place.y, width: width_px }
    written.push(spot)
    return { ...place, word_x: spot.x, word_y: spot.y }
  })
}
const up = computed(() => {
  const places = props.sights.filter(sight => sight.altitude_deg > 0).map(sight => ({
    key: sight.target.key, label: sight.target.label, x: x.value(sight.azimuth_deg), y: y(sight.altitude_deg), sun: false,
  }))
  if (props.sun.is_up) places.push({ key: 'sun', label: 'Sun', x: x.value(props.sun.azimuth_deg), y: y(Math.max(0, props.sun.altitude_deg)), sun: true })
  return withWords(places)
})
</script>

<template>
  <div ref="host" class="strip">
    <svg :width="width" :height="HEIGHT" role="img"
      aria-label="The sky from north through south to north, altitude upwards">
      <rect x="0" :y="GROUND" :width="width" :height="HEIGHT - GROUND" class="earth" />
      <g v-for="altitude in [30, 60]" :key="altitude">
        <line x1="16" :x2="width - 16" :y1="y(altitude)" :y2="y(altitude)" class="grid" />
        <text x="18" :y="y(altitude) - 3" class="figures small-word">{{ altitude }}°</text>
      </g>
      <text v-for="[word, azimuth] in POINTS" :key="azimuth" :x="x(azimuth)" :y="GROUND + 18" text-anchor="middle"
        class="point">{{ word }}</text>
      <g v-for="place in up" :key="place.key" :class="{ sun: place.sun }">
        <circle :cx="place.x" :cy="place.y" :r="place.sun ? 9 : 5" class="dot" />
        <text :x="place.word_x" :y="place.word_y + 5" class="name">{{ place.label }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.strip { border: 1px solid var(--line); border-radius: 10px; overflow: hidden; flex: none; background: var(--surface); }
svg { display: block; }
.earth { fill: var(--jade-wash); }
.grid { stroke: var(--line); stroke-dasharray: 3 5; }
.small-word { font-size: 12px; fill: var(--ink-quiet); }
.point { font-size: 13px; font-weight: 700; }
.dot { fill: var(--jade); }
.sun .dot { fill: none; stroke: var(--sun); stroke-width: 4; stroke-dasharray: 4 2; }
.sun .name { fill: var(--sun); }
.name { font-size: 14px; font-weight: 600; paint-order: stroke; stroke: var(--surface); stroke-width: 4px; }
</style>
