<script setup lang="ts">
import { computed } from 'vue'
import type { Eyepiece } from '@/api/items'

/** The open case from above: each eyepiece in its own well; what was in tonight is missing until it is back. */
const props = defineProps<{ eyepieces: readonly Eyepiece[], used: readonly { id: number, isBack: boolean }[] }>()
const SIZE = { '0.965': 22, '1.25': 27, '2': 36 } as const
const APART = 92
const ROW = 4
const wells = computed(() => [...props.eyepieces].sort((a, b) => b.focal_length_mm - a.focal_length_mm).map((one, n) => {
  const own = props.used.find(each => each.id === one.id)
  const isOut = own !== undefined && !own.isBack
  return { ...one, x: 50 + (n % ROW) * APART, y: 50 + Math.floor(n / ROW) * 104, r: SIZE[one.barrel_in ?? '1.25'], isOut }
}))
const tall = computed(() => Math.ceil(wells.value.length / ROW) * 104 + 6)
const words = computed(() => {
  const out = wells.value.filter(one => one.isOut).map(one => one.name)
  return out.length ? `The case; still out: ${out.join(', ')}` : 'The case; every eyepiece is in its well'
})
</script>

<template>
  <svg v-if="wells.length" class="wells" :viewBox="`0 0 ${ROW * APART + 8} ${tall}`" role="img" :aria-label="words">
    <rect x="2" y="2" :width="ROW * APART + 4" :height="tall - 4" rx="14" class="box" />
    <g v-for="one in wells" :key="one.id ?? one.name" :transform="`translate(${one.x} ${one.y})`"
      :class="{ out: one.isOut }">
      <circle :r="one.r" class="well" />
      <text y="6" text-anchor="middle" class="figures">{{ one.focal_length_mm }}</text>
      <text y="50" text-anchor="middle" class="state">{{ one.isOut ? 'out' : one.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.wells { width: 100%; max-width: 420px; }
.box { fill: var(--surface); stroke: var(--line); stroke-width: 2; }
.well { fill: var(--ground); stroke: var(--ink); stroke-width: 3; }
.out .well { fill: none; stroke-dasharray: 5 5; stroke: var(--brass); }
text { font-size: 17px; font-weight: 700; } .state { font-size: 12.5px; font-weight: 400; fill: var(--ink-quiet); }
.out text { fill: var(--brass-ink); }
</style>
