<script setup lang="ts">
import { scaleLog } from 'd3-scale'
import { computed } from 'vue'
import type { Schema } from '@/api/client'

/** The few rungs one climbs for a target, where one stands, and the line above which tonight's air shows nothing new. */
const props = defineProps<{ rungs: readonly Schema<'SlimRung'>[], standing: string | undefined, air: number }>()
const [WIDE, TALL, EDGE, RAILS] = [300, 230, 20, [96, 144]] as const
const APART = 26
const y = computed(() => {
  const powers = props.rungs.map(one => one.magnification)
  const low = Math.min(...powers), high = Math.max(...powers, low * 1.5)
  return scaleLog([low, high], [TALL - EDGE, EDGE])
})
/** Rungs from below, kept apart so that every word can be read. */
const placed = computed(() => {
  const places = props.rungs.map(one => y.value(one.magnification))
  for (let n = 1; n < places.length; n++) places[n] = Math.min(places[n]!, places[n - 1]! - APART)
  const over = Math.max(0, EDGE - Math.min(...places))
  return props.rungs.map((one, n) => ({ ...one, y: places[n]! + over }))
})
const airY = computed(() => {
  const over = placed.value.find(one => one.is_over_air)
  if (!over) return null
  const under = placed.value.filter(one => !one.is_over_air).at(-1)
  return under ? (over.y + under.y) / 2 : over.y + APART / 2
})
const tall = computed(() => Math.max(TALL, Math.max(0, ...placed.value.map(one => one.y)) + EDGE))
const words = computed(() => props.rungs.map(one => `${one.magnification.toFixed(0)} times with ${one.label}${one.key === props.standing ? ', here' : ''}`).join('; '))
</script>

<template>
  <svg v-if="rungs.length" class="slim" :viewBox="`0 0 ${WIDE} ${tall}`" role="img" :aria-label="`Rungs: ${words}`">
    <line v-for="x in RAILS" :key="x" :x1="x" :x2="x" y1="4" :y2="tall - 4" class="rail" />
    <g v-if="airY !== null" class="air">
      <line x1="66" :x2="174" :y1="airY" :y2="airY" />
      <text x="182" :y="airY + 4">air: {{ air.toFixed(0) }}×</text>
    </g>
    <g v-for="one in placed" :key="one.key" :class="{ here: one.key === standing, over: one.is_over_air }">
      <line :x1="RAILS[0] - (one.key === standing ? 10 : 0)"
        :x2="RAILS[1] + (one.key === standing ? 10 : 0)" :y1="one.y"
        :y2="one.y" class="step" />
      <text :x="RAILS[0] - 18" :y="one.y + 5" text-anchor="end"
        class="figures">{{ one.magnification.toFixed(0) }}×</text>
      <text :x="RAILS[1] + 18" :y="one.y + 5">{{ one.label }}{{ one.is_top ? ' · best' : '' }}</text>
    </g>
  </svg>
</template>

<style scoped>
.slim { width: 100%; max-height: 100%; display: block; }
.rail { stroke: var(--ink-quiet); stroke-width: 4; stroke-linecap: round; }
.step { stroke: var(--ink-quiet); stroke-width: 3; stroke-linecap: round; }
text { font-size: 15px; fill: var(--ink-quiet); }
.here .step { stroke: var(--jade); stroke-width: 9; }
.here text { fill: var(--ink); font-weight: 800; }
.over .step { stroke-dasharray: 6 6; }
.air line { stroke: var(--brass); stroke-width: 2; stroke-dasharray: 7 4; }
.air text { font-size: 13px; fill: var(--brass-ink); }
</style>
