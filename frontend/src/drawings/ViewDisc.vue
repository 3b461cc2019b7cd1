<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import PlanetDrawing from './PlanetDrawing.vue'

const props = defineProps<{ disc: Schema<'Disc'> }>()
const R = 100
const LABEL = 86
const ARROW = 70
/** Radius in drawing units of a star by magnitude: brighter is larger, never below a visible dot. */
const starRadius = (mag: number) => Math.max(0.7, 3.3 - 0.31 * mag)
const at = (deg: number, distance: number) => ({
  x: Math.cos(deg * Math.PI / 180) * distance, y: -Math.sin(deg * Math.PI / 180) * distance,
})
const north = computed(() => at(props.disc.north_deg, LABEL))
const west = computed(() => at(props.disc.west_deg, LABEL))
const glow = computed(() => 0.1 * props.disc.dimming)
const shine = computed(() => 0.12 + 0.3 * props.disc.dimming)
const clip = computed(() => `edge-${props.disc.rung_key.replace(/\W/g, '_')}`)
const LEAST_BODY = 1.2
const FIND_RING = 9
const isTiny = (radius: number) => radius * R < 5
const words = computed(() => `${props.disc.words} North ${props.disc.north_deg.toFixed(0)} degrees from right, counter-clockwise.`)
</script>

<template>
  <svg class="disc" viewBox="-106 -106 212 212" role="img" :aria-label="words">
    <defs><clipPath :id="clip"><circle :r="R" /></clipPath></defs>
    <circle :r="R" class="field" />
    <g :clip-path="`url(#${clip})`">
      <circle :r="R" class="glow" :style="{ opacity: glow }" />
      <g v-for="thing in disc.objects" :key="thing.label"><ellipse
        :rx="Math.max(0.8, thing.major * R)"
        :ry="Math.max(0.8, thing.minor * R)"
        :transform="`translate(${thing.x * R} ${-thing.y * R}) rotate(${-thing.angle_deg})`"
        :class="['thing', { cluster: thing.shape === 'cluster', target: thing.is_target }]"
        :style="{ fillOpacity: shine }"
      /><text :x="thing.x * R" :y="-thing.y * R - 5" text-anchor="middle"
        class="hover-word small-word">{{ thing.label }}, {{ thing.kind }}</text></g>
      <circle v-for="(star, n) in disc.stars" :key="n" :cx="star.x * R" :cy="-star.y * R" :r="starRadius(star.mag)"
        class="star" />
      <g v-for="body in disc.bodies" :key="body.body" :transform="`translate(${body.x * R} ${-body.y * R})`">
        <PlanetDrawing :body="body" :radius="Math.max(LEAST_BODY, body.radius * R)" />
        <circle v-if="isTiny(body.radius)" :r="FIND_RING" class="ring" />
      </g>
      <template v-for="body in disc.bodies" :key="`moons-${body.body}`">
        <g v-for="moon in body.moons" :key="moon.name"
          :transform="`translate(${moon.x * R} ${-moon.y * R})`">
          <circle r="0.8" class="star" /><circle r="3" class="near" />
          <text y="-4" text-anchor="middle" class="hover-word small-word">{{ moon.name }}</text>
        </g>
      </template>
      <g class="way" :transform="`rotate(${-disc.west_deg})`"><path
        :d="`M${ARROW - 14} 0H${ARROW + 6}m-5 -4l5 4l-5 4`" /></g>
    </g>
    <circle :r="R" class="stop" />
    <text :x="north.x" :y="north.y + 4" text-anchor="middle" class="point">N</text>
    <text :x="west.x" :y="west.y + 4" text-anchor="middle" class="point">W</text>
  </svg>
</template>

<style scoped>
.disc { width: 100%; height: 100%; display: block; }
.field { fill: var(--field); }
.glow { fill: var(--field-ink); }
.stop { fill: none; stroke: var(--field-ring); stroke-width: 4; }
.star { fill: var(--field-ink); } .near { fill: transparent; } .small-word { font-size: 7px; fill: var(--field-ink); stroke: var(--field); stroke-width: 2px; }
.thing { fill: var(--field-ink); stroke: none; }
.thing.cluster { fill-opacity: 0 !important; stroke: var(--field-ink); stroke-width: 0.5; stroke-dasharray: 1.5 2.5; }
.thing.target { stroke: var(--field-ink); stroke-width: 0.6; stroke-dasharray: 1.5 2.5; }
.ring { fill: none; stroke: var(--field-ink); stroke-width: 0.6; stroke-dasharray: 2 2; }
.point { fill: var(--field-ink); font-size: 9px; font-weight: 700; paint-order: stroke; stroke: var(--field); stroke-width: 3px; }
.way path { stroke: var(--field-ink); fill: none; stroke-width: 1; }
</style>
