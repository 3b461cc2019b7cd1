<script setup lang="ts">
import { computed } from 'vue'
import { azimuthOf, onDial, POINTS } from './compass'
import { usePointing } from './usePointing'

/** The base from above: its feet on their circle, the round vial in the middle, foot 1 or north on top. */
const props = defineProps<{
  /** Where the bubble stands, in divisions, and toward which azimuth; null draws no bubble. */
  bubble: { divisions: number, azimuth_deg: number } | null
  vialDivisions: number
  footAzimuths: readonly number[]
  nextFoot: number | null
  /** What to turn at that foot, in words. */
  asked: string
  /** Whether the bearings are known, so that north is on top; else foot 1 is. */
  byBearing: boolean
  lowAzimuthDeg: number | null
  canPoint: boolean
}>()
const emit = defineEmits<{ bubble: [divisions: number, azimuth: number] }>()
const FEET_R = 142
const VIAL_R = 78
const BUBBLE_R = 13
const RIM = 170
const reach = VIAL_R - BUBBLE_R
const scale = computed(() => reach / props.vialDivisions)
const place = computed(() => props.bubble
  ? onDial(props.bubble.azimuth_deg, Math.min(reach, props.bubble.divisions * scale.value)) : null)
const rings = computed(() => Array.from({ length: Math.floor(props.vialDivisions) }, (_, n) => (n + 1) * scale.value))
const { onDown, onMove, onKey } = usePointing(({ x, y }) => {
  if (!props.canPoint) return
  const divisions = Math.min(props.vialDivisions, Math.hypot(x, y) / scale.value)
  emit('bubble', Math.round(divisions * 20) / 20, Math.round(azimuthOf(x, y)) % 360)
}, () => place.value ?? { x: 0, y: 0 }, () => scale.value * 0.2)
const quarters = computed(() => props.byBearing ? POINTS.filter((_, n) => n % 2 === 0) : [])
const words = computed(() => props.bubble
  ? `Bubble ${props.bubble.divisions.toFixed(1)} divisions ${props.byBearing ? 'toward' : 'clockwise from foot 1 by'} ${props.bubble.azimuth_deg.toFixed(0)} degrees` : 'No bubble')
/** Where words stand at a foot: beside it near the middle, else above or under it, away from the vial and the edge. */
function beside (foot: number) {
  const { x, y } = onDial(foot, 1)
  if (Math.abs(x) < 0.5) return { 'x': x < -0.2 ? -24 : 24, 'y': -12, 'text-anchor': x < -0.2 ? 'end' : 'start' }
  return { 'x': 0, 'y': y < 0 ? -27 : 38, 'text-anchor': 'middle' }
}
const base = computed(() => {
  const corners = props.footAzimuths.map(foot => onDial(foot, FEET_R))
  return `M${corners.map(({ x, y }) => `${x} ${y}`).join('L')}z`
})
</script>

<template>
  <svg
    ref="svg" viewBox="-216 -190 432 380" class="dial" :class="{ live: canPoint }" :tabindex="canPoint ? 0 : -1"
    role="application"
    aria-label="Bubble: point at it, or use the arrow keys" :aria-description="words" @pointerdown="onDown"
    @pointermove="onMove" @keydown="onKey"
  >
    <circle :r="RIM" class="rim" />
    <text v-for="[word, azimuth] in quarters" :key="word" :x="onDial(azimuth, RIM + 11).x"
      :y="onDial(azimuth, RIM + 11).y + 5" text-anchor="middle" class="point">{{ word }}</text>
    <path
      :d="base"
      class="base" />
    <g v-if="lowAzimuthDeg !== null" :transform="`rotate(${lowAzimuthDeg})`">
      <path d="M0 -86V-112m-8 9l8 -10l8 10" class="low" />
    </g>
    <g v-for="(foot, n) in footAzimuths" :key="n"
      :transform="`translate(${onDial(foot, FEET_R).x} ${onDial(foot, FEET_R).y})`">
      <circle r="19" :class="['foot', { next: n === nextFoot }]" />
      <text y="5" text-anchor="middle" :class="['figures', 'number', { next: n === nextFoot }]">{{ n + 1 }}</text>
      <text v-if="asked && n === nextFoot" v-bind="beside(foot)" class="figures raise">{{ asked }}</text>
    </g>
    <text v-if="lowAzimuthDeg !== null" :x="onDial(lowAzimuthDeg - 17, 106).x"
      :y="onDial(lowAzimuthDeg - 17, 106).y + 5" text-anchor="middle" class="low-word">low</text>
    <circle :r="VIAL_R" class="vial" />
    <circle v-for="ring in rings" :key="ring" :r="ring" class="ring" />
    <path d="M-6 0H6M0 -6V6" class="ring" />
    <circle v-if="place" :cx="place.x" :cy="place.y" :r="BUBBLE_R" class="bubble" />
  </svg>
</template>

<style scoped>
.dial { width: 100%; height: 100%; display: block; touch-action: none; border-radius: 14px; }
.live { cursor: crosshair; }
.rim { fill: none; stroke: var(--line); stroke-width: 1.5; }
.base { fill: var(--surface); stroke: var(--ink-quiet); stroke-width: 2.5; stroke-linejoin: round; }
.point { font-weight: 700; font-size: 15px; }
.foot { fill: var(--ground); stroke: var(--ink); stroke-width: 3; }
.foot.next { fill: var(--brass-wash); stroke: var(--brass); stroke-width: 5; }
.number { font-size: 16px; font-weight: 700; }
.raise { font-size: 15px; font-weight: 700; paint-order: stroke; stroke: var(--ground); stroke-width: 5px; }
.low { stroke: var(--brass); fill: none; stroke-width: 3; }
.low-word { font-size: 15px; fill: var(--brass-ink); paint-order: stroke; stroke: var(--ground); stroke-width: 5px; }
.vial { fill: var(--jade-wash); stroke: var(--ink); stroke-width: 3; }
.ring { fill: none; stroke: var(--ink-quiet); stroke-width: 1.2; }
.bubble { fill: var(--jade); fill-opacity: 0.55; stroke: var(--jade); stroke-width: 2.5; }
</style>
