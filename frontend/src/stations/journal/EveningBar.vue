<script setup lang="ts">
import { computed } from 'vue'
import { clockTime } from '@/shell/time'
import type { Schema } from '@/api/client'
import { OUTCOMES, stateOf } from './outcomes'

/** One evening from afternoon to morning: how dark, the Moon, what was in the eyepiece, and each note. */
const props = defineProps<{ bar: Schema<'EveningBar'>, width: number, tall?: boolean }>()
const HOUR_MS = 3_600_000
/** Bars begin three hours after noon and end three hours before: nobody looks at stars between. */
const CUT_MS = 3 * HOUR_MS
const height = computed(() => props.tall ? 56 : 40)
const begin = computed(() => Date.parse(props.bar.start_utc) + CUT_MS)
const long = computed(() => Date.parse(props.bar.end_utc) - CUT_MS - begin.value)
const x = (utc: string) => Math.min(props.width, Math.max(0, (Date.parse(utc) - begin.value) / long.value * props.width))
const span = (one: { start_utc: string, end_utc: string }) => ({ x: x(one.start_utc), width: Math.max(0, x(one.end_utc) - x(one.start_utc)) })
const hours = computed(() => [6, 9, 12, 15].map(after => {
  const utc = new Date(Date.parse(props.bar.start_utc) + after * HOUR_MS).toISOString()
  return { x: x(utc), word: clockTime(utc, props.bar.zone) }
}).filter(one => one.x > 0 && one.x < props.width - 44))
const marks = computed(() => props.bar.marks.map(one => ({ ...one, x: x(one.at_utc), state: stateOf(one.outcome) })))
</script>

<template>
  <svg :width="width" :height="height" class="bar" role="img"
    :aria-label="`${bar.words}${bar.shape?.dark.length ? '' : ', no dark'}`">
    <rect :width="width" :height="height" rx="4" class="dusk" />
    <rect v-for="one in bar.shape?.dark ?? []" :key="one.start_utc" v-bind="span(one)" :height="height" class="dark" />
    <rect v-for="one in bar.shape?.moon_up ?? []" :key="one.start_utc" v-bind="span(one)" y="0" height="4"
      class="moon" />
    <g v-if="tall" class="hours">
      <g v-for="one in hours" :key="one.x"><path :d="`M${one.x} 4V${height}`" /><text :x="one.x + 4" :y="height - 5"
        class="figures">{{ one.word }}</text></g>
    </g>
    <rect v-for="one in bar.stays" :key="one.start_utc" v-bind="span(one)" :y="tall ? 12 : 9" :height="6"
      class="stay" />
    <g v-for="one in marks" :key="one.id" :transform="`translate(${one.x} ${tall ? 26 : 24})`">
      <path v-if="OUTCOMES[one.state].fill" :d="OUTCOMES[one.state].fill" class="fill" />
      <path :d="OUTCOMES[one.state].outline" class="mark" />
    </g>
  </svg>
</template>

<style scoped>
.bar { display: block; }
.dusk { fill: var(--light-astronomical); } .dark { fill: var(--light-dark); } .moon { fill: var(--moon-band); }
.stay { fill: var(--field-ink); opacity: 0.55; }
.mark { stroke: var(--field-ink); stroke-width: 1.6; fill: none; }
.fill { fill: var(--field-ink); }
.hours path { stroke: var(--field-ink); opacity: 0.3; } .hours text { fill: var(--field-ink); font-size: 12px; }
</style>
