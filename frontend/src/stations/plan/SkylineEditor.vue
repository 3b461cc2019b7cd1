<script setup lang="ts">
import { minIndex } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import { POINTS, skylinePath } from '@/drawings/horizon'
import { FINGER_PX, useRegime } from '@/shell/regime'
import { useWidth } from '@/shell/width'

/** One's own skyline, drawn: press to set a point, drag it, move it by arrow keys, take it away with Delete. */
type Point = Schema<'SkylinePoint'>
const points = defineModel<readonly Point[]>({ required: true })
defineProps<{ domes: readonly { azimuth_deg: number, width_deg: number, brighter_mag: number }[] }>()
const host = ref<HTMLElement | null>(null)
const regime = useRegime()
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(host)
const HEIGHT = 220
const GROUND = 190
/** So near a point a mouse takes it by day. */
const NEAR_PX = 14
const reachPx = computed(() => regime.regime === 'dark' ? FINGER_PX : NEAR_PX)
const x = computed(() => scaleLinear([0, 360], [16, Math.max(17, width.value - 16)]))
const y = scaleLinear([0, 90], [GROUND, 14])
const roof = computed(() => skylinePath(points.value, x.value, y))
const held = ref<number | null>(null)
const tenth = (value: number, low: number, high: number) => Math.round(Math.min(high, Math.max(low, value)) * 10) / 10
function placed (event: PointerEvent): Point {
  const box = svg.value!.getBoundingClientRect()
  return {
    azimuth_deg: tenth(x.value.invert(event.clientX - box.left), 0, 360),
    altitude_deg: tenth(y.invert(event.clientY - box.top), -5, 90),
  }
}
/** Keep a point between its neighbours, so that the line runs on from north round to north. */
function between (n: number, point: Point): Point {
  const before = points.value[n - 1]?.azimuth_deg ?? 0
  const after = points.value[n + 1]?.azimuth_deg ?? 360
  return { ...point, azimuth_deg: Math.min(after, Math.max(before, point.azimuth_deg)) }
}
const move = (n: number, point: Point) => { points.value = points.value.map((one, m) => m === n ? between(n, point) : one) }
function onDown (event: PointerEvent) {
  const point = placed(event)
  const box = svg.value!.getBoundingClientRect()
  const farPx = points.value.map(one => Math.hypot(x.value(one.azimuth_deg) - event.clientX + box.left, y(one.altitude_deg) - event.clientY + box.top))
  const near = minIndex(farPx)
  if ((farPx[near] ?? Infinity) < (event.pointerType === 'mouse' ? reachPx.value : FINGER_PX)) held.value = near
  else {
    const at = points.value.filter(one => one.azimuth_deg <= point.azimuth_deg).length
    points.value = [...points.value.slice(0, at), point, ...points.value.slice(at)]
    held.value = at
  }
  svg.value!.setPointerCapture(event.pointerId)
}
function onMove (event: PointerEvent) {
  if (held.value !== null && svg.value?.hasPointerCapture(event.pointerId)) move(held.value, placed(event))
}
const handleWords = (n: number, { azimuth_deg, altitude_deg }: Point) =>
  `Point ${n + 1}: azimuth ${azimuth_deg}°, ${altitude_deg}° high; arrow keys move it, Delete takes it away`
const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
function onKey (n: number, event: KeyboardEvent) {
  const point = points.value[n]!
  if (event.key === 'Delete' || event.key === 'Backspace') points.value = points.value.filter((_, m) => m !== n)
  else {
    const way = WAYS[event.key]
    if (!way) return
    const step = event.shiftKey ? 0.1 : 1
    move(n, { azimuth_deg: tenth(point.azimuth_deg + way[0] * step, 0, 360), altitude_deg: tenth(point.altitude_deg + way[1] * step, -5, 90) })
  }
  event.preventDefault()
}
</script>

<template>
  <div ref="host" class="strip">
    <svg ref="svg" :width="width" :height="HEIGHT" role="group" aria-label="Skyline from north through south to north"
      @pointerdown="onDown" @pointermove="onMove" @pointerup="held = null">
      <ellipse v-for="(dome, n) in domes" :key="n" :cx="x(dome.azimuth_deg)" :cy="GROUND"
        :rx="(x(dome.width_deg) - x(0)) / 2" :ry="24 + 16 * Math.min(3, dome.brighter_mag)" class="glow" />
      <g v-for="altitude in [30, 60]" :key="altitude">
        <line x1="16" :x2="width - 16" :y1="y(altitude)" :y2="y(altitude)" class="grid" />
        <text x="18" :y="y(altitude) - 3" class="figures small-word">{{ altitude }}°</text>
      </g>
      <path :d="roof" class="earth" />
      <text v-for="[word, azimuth] in POINTS" :key="azimuth" :x="x(azimuth)" :y="HEIGHT - 9" text-anchor="middle"
        class="point-word">{{ word }}</text>
      <g v-for="(point, n) in points" :key="n"
        :transform="`translate(${x(point.azimuth_deg)} ${y(point.altitude_deg)})`"
        class="handle" :class="{ held: held === n }" tabindex="0" role="button"
        :aria-label="handleWords(n, point)" @keydown="onKey(n, $event)">
        <circle :r="reachPx" class="reach" /><circle r="6.5" class="dot" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.strip { border: 1px solid var(--line); border-radius: 10px; overflow: hidden; background: var(--surface); }
svg { display: block; touch-action: none; cursor: crosshair; user-select: none; }
.earth { fill: var(--jade-wash); stroke: var(--ink-quiet); stroke-width: 1.5; }
.glow { fill: var(--brass-wash); }
.grid { stroke: var(--line); stroke-dasharray: 3 5; }
.small-word { font-size: 12px; fill: var(--ink-quiet); }
.point-word { font-size: 13px; font-weight: 700; }
.handle { cursor: grab; outline: none; }
.dot { fill: var(--surface); stroke: var(--jade); stroke-width: 2.5; }
.held .dot { fill: var(--jade); }
.reach { fill: transparent; }
.handle:focus-visible .reach { stroke: var(--jade); stroke-width: 3; }
</style>
