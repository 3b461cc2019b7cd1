<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { clockTime } from '@/shell/time'
import { azimuthOf, onDial, POINTS, sector } from './compass'
import { usePointing } from './usePointing'

/** Bearings around the observer: where the Sun is and goes, what is refused, the landmark. */
const props = defineProps<{ ring: Schema<'SunRing'>, zone: string, landmarkDeg?: number | null, refused?: boolean, canPoint?: boolean }>()
const emit = defineEmits<{ bearing: [deg: number] }>()
const OUTER = 92
const INNER = 66
/** The Sun's distance from the middle: on the rim at the horizon, in the middle overhead. */
const sunAt = (mark: Schema<'SunMark'>) => onDial(mark.azimuth_deg, INNER * (1 - Math.max(0, mark.altitude_deg) / 90))
const unsafe = computed(() => props.ring.unsafe.map(arc => sector(arc.from_deg, arc.to_deg, INNER, OUTER)))
const safe = computed(() => props.ring.safe.map(arc => sector(arc.from_deg, arc.to_deg, INNER, OUTER)))
const track = computed(() => props.ring.track.map(mark => ({ ...sunAt(mark), at: mark.at_utc })))
const landmark = computed(() => props.landmarkDeg == null ? null : onDial(props.landmarkDeg, (INNER + OUTER) / 2))
const { onDown, onMove, onKey } = usePointing(({ x, y }) => {
  if (props.canPoint) emit('bearing', Math.round(azimuthOf(x, y)) % 360)
}, () => landmark.value ?? { x: 0, y: -80 }, () => 3)
const words = computed(() => [
  props.ring.words,
  ...props.ring.unsafe.map(arc => `Refused from ${arc.from_deg.toFixed(0)} to ${arc.to_deg.toFixed(0)} degrees.`),
].join(' '))
const id = `hatch-${Math.random().toString(36).slice(2, 8)}`
</script>

<template>
  <svg
    ref="svg" viewBox="-112 -112 224 224" class="sun-ring" :class="{ live: canPoint }" :tabindex="canPoint ? 0 : -1"
    :role="canPoint ? 'application' : 'img'"
    :aria-label="canPoint ? `Bearing of the landmark: point, or use the arrow keys. ${words}` : words"
    @pointerdown="onDown" @pointermove="onMove" @keydown="onKey"
  >
    <defs><pattern :id="id" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path
      d="M0 0V6" class="hatch" /></pattern></defs>
    <path v-for="arc in safe" :key="arc" :d="arc" class="safe" />
    <g v-for="arc in unsafe" :key="arc"><path :d="arc" class="unsafe-ground" /><path :d="arc"
      :style="{ fill: `url(#${id})` }" class="unsafe" /></g>
    <circle :r="INNER" class="sky" />
    <text v-for="[word, azimuth] in POINTS.filter((_, n) => n % 2 === 0)" :key="word" :x="onDial(azimuth, 102).x"
      :y="onDial(azimuth, 102).y + 4" text-anchor="middle" class="point">{{ word }}</text>
    <polyline v-if="track.length > 1" :points="track.map(mark => `${mark.x},${mark.y}`).join(' ')" class="track" />
    <g v-for="mark in track" :key="mark.at" :transform="`translate(${mark.x} ${mark.y})`">
      <circle r="1.8" class="dot" /><circle r="7" class="near" />
      <text x="7" y="-5" class="hover-word">{{ clockTime(mark.at, zone) }}</text>
    </g>
    <g v-if="ring.is_up" :transform="`translate(${sunAt(ring.sun).x} ${sunAt(ring.sun).y})`"><circle r="8" class="sun"
      /><circle r="3" class="sun-dot" /></g>
    <g v-if="landmark" :transform="`translate(${landmark.x} ${landmark.y})`">
      <path d="M0 -10L9 7H-9z" :class="['mark', { refused }]" />
    </g>
    <text v-if="!ring.is_up" y="4" text-anchor="middle" class="down">Sun is down</text>
  </svg>
</template>

<style scoped>
.sun-ring { width: 100%; height: 100%; display: block; touch-action: none; border-radius: 12px; }
.live { cursor: crosshair; }
.safe { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 1; }
.unsafe-ground { fill: var(--sun-wash); }
.unsafe { stroke: var(--sun); stroke-width: 2; }
.hatch { stroke: var(--sun); stroke-width: 3; }
.sky { fill: var(--surface); stroke: var(--line); }
.point { font-size: 12px; font-weight: 700; }
.track { fill: none; stroke: var(--sun); stroke-width: 1.5; stroke-dasharray: 3 3; }
.dot { fill: var(--sun); } .near { fill: transparent; }
.sun { fill: var(--ground); stroke: var(--sun); stroke-width: 4; }
.sun-dot { fill: var(--sun); }
.mark { fill: var(--jade); stroke: var(--ground); stroke-width: 2; }
.mark.refused { fill: var(--ground); stroke: var(--sun); stroke-width: 3; }
.down { font-size: 14px; fill: var(--ink-quiet); }
</style>
