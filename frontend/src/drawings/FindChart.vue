<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'

/** A round chart with the way from a bright star to a target. */
const props = defineProps<{ chart: Schema<'Chart'>, start: string }>()
const R = 100
const GAP = 11
const NAMED = 4
const starRadius = (mag: number) => Math.max(0.7, 4 - 0.55 * mag)
const from = computed(() => ({ x: props.chart.start_x * R, y: -props.chart.start_y * R }))
const to = computed(() => ({ x: props.chart.target_x * R, y: -props.chart.target_y * R }))
/** The way, cut at the ring around the target and where it enters the chart. */
const way = computed(() => {
  const [dx, dy] = [to.value.x - from.value.x, to.value.y - from.value.y]
  const length = Math.hypot(dx, dy)
  if (length < 2 * GAP) return null
  const out = Math.hypot(from.value.x, from.value.y) > R - 4
  const begin = out ? Math.max(0, (length - (R - 4)) / length) : GAP / 2 / length
  const end = 1 - GAP / length
  return { x1: from.value.x + dx * begin, y1: from.value.y + dy * begin, x2: from.value.x + dx * end, y2: from.value.y + dy * end }
})
const startIsInside = computed(() => Math.hypot(props.chart.start_x, props.chart.start_y) < 0.96)
</script>

<template>
  <figure>
    <svg viewBox="-106 -106 212 212" role="img" :aria-label="`${chart.title}: ${chart.words}`">
      <circle :r="R" class="field" />
      <circle v-for="(star, n) in chart.stars" :key="n" :cx="star.x * R" :cy="-star.y * R" :r="starRadius(star.mag)"
        class="star" />
      <line v-if="way" v-bind="way" class="way" />
      <circle :cx="to.x" :cy="to.y" :r="GAP - 2" class="goal" />
      <text v-if="startIsInside && chart.stars.length > NAMED" :x="from.x" :y="from.y + 16" text-anchor="middle"
        class="name">{{ start }}</text>
      <circle :r="R" class="stop" />
    </svg>
    <figcaption><b>{{ chart.title }}</b><span class="small">{{ chart.words }}</span></figcaption>
  </figure>
</template>

<style scoped>
figure { margin: 0; display: grid; gap: 4px; justify-items: center; text-align: center; align-content: start; }
svg { width: 100%; max-width: 210px; }
.field { fill: var(--field); } .star { fill: var(--field-ink); }
.stop { fill: none; stroke: var(--field-ring); stroke-width: 5; }
.way { stroke: var(--field-ink); stroke-width: 1.5; stroke-dasharray: 5 4; }
.goal { fill: none; stroke: var(--field-ink); stroke-width: 2.5; }
.name { fill: var(--field-ink); font-size: 13px; paint-order: stroke; stroke: var(--field); stroke-width: 4px; }
figcaption { display: grid; }
</style>
