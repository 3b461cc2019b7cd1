<script setup lang="ts">
import { scaleSqrt } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import { useWidth } from '@/shell/width'

/** Minutes in the field by target: solid at the worst of the doubts, open as recorded. */
const props = defineProps<{ budget: Schema<'Budget'>, number: number }>()
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)
const label = computed(() => width.value < 480 ? 118 : 170)
const ROW = 42
const MOST = 180
const isByHand = computed(() => props.budget.drive === 'hand')
/** By hand what never leaves would dwarf the rest: its bar just ends at the edge. */
const most = computed(() => Math.min(MOST, Math.max(5, ...props.budget.targets.map(one => one.minutes[props.number] ?? (isByHand.value ? 0 : MOST)))))
const room = computed(() => isByHand.value ? 300 : 96)
const x = computed(() => scaleSqrt([0, most.value], [0, Math.max(40, width.value - label.value - room.value)]))
const ticks = computed(() => [1, 5, 15, 30, 60, 120, 180].filter(minutes => minutes <= most.value))
const say = (minutes: number | null | undefined) => minutes == null ? '3 h +' : minutes < 1 ? `${Math.round(minutes * 60)} s` : `${minutes.toFixed(minutes < 10 ? 1 : 0)} min`
const rows = computed(() => props.budget.targets.map((one, n) => ({
  ...one, y: n * ROW + 8, open: one.minutes[props.number], solid: one.worst_minutes[props.number],
  end: label.value + x.value(Math.min(one.minutes[props.number] ?? most.value, most.value)),
})))
const LETTER_PX = 8.2
function shortened (words: string): string {
  const most = Math.floor(label.value / LETTER_PX)
  return words.length > most ? `${words.slice(0, most - 1)}…` : words
}
</script>

<template>
  <div ref="host" class="bars">
    <svg :width="width" :height="rows.length * ROW + 30" role="img"
      :aria-label="rows.map(row => `${row.label}: ${say(row.solid)} to ${say(row.open)}`).join('; ')">
      <g v-for="tick in ticks" :key="tick"><line :x1="label + x(tick)" :x2="label + x(tick)" y1="0"
        :y2="rows.length * ROW" class="grid" /><text :x="label + x(tick)" :y="rows.length * ROW + 18"
        text-anchor="middle" class="figures tick">{{ tick }}{{ tick === ticks.at(-1) ? ' min' : '' }}</text></g>
      <g v-for="row in rows" :key="row.label" :transform="`translate(0 ${row.y})`">
        <text x="0" y="13"
          class="name">{{ shortened(row.label) }}</text>
        <text x="0" y="29" class="tick">{{ row.altitude_deg.toFixed(0) }}° up</text>
        <rect v-if="row.open !== row.solid" :x="label" y="2" :width="row.end - label" height="22" rx="4" class="open" />
        <rect :x="label" y="2" :width="x(Math.min(row.solid ?? most, most))" height="22" rx="4" class="solid" />
        <text :x="row.end + 8" y="18" class="value"><tspan class="figures strong">{{ say(row.solid) }}</tspan><tspan
          v-if="row.nudge_words" dx="10">{{ row.nudge_words }}</tspan></text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.bars { width: 100%; min-width: 0; }
.grid { stroke: var(--line); stroke-dasharray: 3 5; }
.tick { font-size: 12px; fill: var(--ink-quiet); }
.name { font-size: 15px; font-weight: 600; }
.open { fill: none; stroke: var(--jade); stroke-width: 1.5; stroke-dasharray: 4 3; }
.solid { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 1.5; }
.value { font-size: 14px; paint-order: stroke; stroke: var(--ground); stroke-width: 4px; }
.strong { font-weight: 700; }
</style>
