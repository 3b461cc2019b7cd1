<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { useUnits } from '@/stores/units'

/** From the side: the span of the eyepiece over the ground, the pivot, and the people. */
const props = defineProps<{ advice: Schema<'StandAdvice'> }>()
const units = useUnits()
const emit = defineEmits<{ pivot: [mm: number] }>()
const GROUND = 300
const WIDTH = 620
const tallest = computed(() => Math.max(1400, props.advice.eyepiece_high_mm, props.advice.pivot_height_mm, ...props.advice.people.map(one => one.eye_height_mm * 1.07)))
const scale = computed(() => (GROUND - 24) / tallest.value)
const y = (mm: number) => GROUND - mm * scale.value
const people = computed(() => props.advice.people.map((one, n) => ({ ...one, x: 330 + n * Math.min(130, 280 / props.advice.people.length) })))
const marks = computed(() => Array.from({ length: Math.floor(tallest.value / 500) }, (_, n) => (n + 1) * 500))
function onKey (event: KeyboardEvent) {
  const step = { ArrowUp: 10, ArrowDown: -10 }[event.key]
  if (!step) return
  event.preventDefault()
  emit('pivot', Math.round(props.advice.pivot_height_mm + step))
}
const legs = computed(() => {
  const top = `M210 ${y(props.advice.pivot_height_mm)}`
  return `${top}L168 ${GROUND}${top}L252 ${GROUND}${top}V${GROUND}`
})
/** A person as a few strokes: spine and legs, arms. */
function bodyOf ({ x, eye_height_mm }: { x: number, eye_height_mm: number }): string {
  const at = (share: number) => y(eye_height_mm * share)
  const legsAndSpine = `M${x} ${at(0.93)}V${at(0.5)}L${x - 12} ${GROUND}M${x} ${at(0.5)}L${x + 12} ${GROUND}`
  return `${legsAndSpine}M${x - 18} ${at(0.62)}L${x} ${at(0.84)}L${x + 18} ${at(0.62)}`
}
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} 330`" class="heights" role="slider" tabindex="0"
    aria-label="Height of the pivot, up and down by the arrow keys"
    :aria-valuenow="Math.round(advice.pivot_height_mm)" @keydown="onKey">
    <line x1="0" :x2="WIDTH" :y1="GROUND" :y2="GROUND" class="ground" />
    <g v-for="mark in marks" :key="mark"><line x1="44" :x2="WIDTH" :y1="y(mark)" :y2="y(mark)" class="grid" /><text
      x="40" :y="y(mark) + 4" text-anchor="end" class="figures mark">{{ units.height(mark) }}</text></g>
    <text x="40" :y="GROUND + 18" text-anchor="end" class="mark">{{ units.heightUnit }}</text>
    <rect x="60" :width="WIDTH - 70" :y="y(advice.eyepiece_high_mm)"
      :height="Math.max(3, y(advice.eyepiece_low_mm) - y(advice.eyepiece_high_mm))" class="span" />
    <text x="66" :y="y(advice.eyepiece_high_mm) - 6" class="word">eyepiece to
      {{ units.height(advice.eyepiece_high_mm) }}</text>
    <text x="66" :y="y(advice.eyepiece_low_mm) + 17" class="word">from {{ units.height(advice.eyepiece_low_mm) }}</text>
    <path
      :d="legs"
      class="legs" />
    <circle cx="210" :cy="y(advice.pivot_height_mm)" r="9" class="pivot" />
    <text x="226" :y="y(advice.pivot_height_mm) + 5" class="word strong">pivot
      {{ units.height(advice.pivot_height_mm) }}</text>
    <g v-for="one in people" :key="one.name">
      <rect v-if="one.seat_low_mm !== null && one.seat_high_mm !== null" :x="one.x - 24" width="48"
        :y="y(one.seat_high_mm)" :height="Math.max(4, y(one.seat_low_mm) - y(one.seat_high_mm))" class="seat" />
      <path
        :d="bodyOf(one)"
        :class="['body', { warns: one.warns }]" />
      <circle :cx="one.x" :cy="y(one.eye_height_mm)" :r="Math.max(6, one.eye_height_mm * 0.066 * scale)"
        :class="['head', { warns: one.warns }]" />
      <text :x="one.x" :y="GROUND + 19" text-anchor="middle" class="word">{{ one.name.split(' ')[0] }}</text>
    </g>
  </svg>
</template>

<style scoped>
.heights { width: 100%; height: 100%; display: block; border-radius: 12px; }
.ground { stroke: var(--ink); stroke-width: 3; }
.grid { stroke: var(--line); stroke-dasharray: 3 5; }
.mark { font-size: 13px; fill: var(--ink-quiet); }
.span { fill: var(--jade); opacity: 0.2; }
.word { font-size: 14px; paint-order: stroke; stroke: var(--ground); stroke-width: 4px; } .strong { font-weight: 700; }
.legs { stroke: var(--ink); stroke-width: 5; fill: none; stroke-linecap: round; }
.pivot { fill: var(--ground); stroke: var(--ink); stroke-width: 4; }
.body { stroke: var(--ink-quiet); stroke-width: 4; fill: none; stroke-linecap: round; stroke-linejoin: round; }
.head { fill: var(--ground); stroke: var(--ink-quiet); stroke-width: 4; }
.warns { stroke: var(--brass); }
.seat { fill: var(--brass-wash); stroke: var(--brass); stroke-width: 2; stroke-dasharray: 5 3; }
</style>
