<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Telescope } from '@/api/items'
import { telescopeShape } from '@/drawings/telescopeShape'
import { useWidth } from '@/shell/width'

const props = defineProps<{ telescopes: readonly Telescope[], chosenId: number | null }>()
defineEmits<{ open: [telescope: Telescope], add: [] }>()
const HEIGHT = 190
const GROUND = 132
const SPACE_PX = 44
const LEAST_PX = 150
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)

const shapes = computed(() => props.telescopes.map(telescope => ({ telescope, shape: telescopeShape(telescope) })))
const scale = computed(() => {
  const free = width.value - SPACE_PX * (shapes.value.length + 1) - 140
  const total = shapes.value.reduce((sum, { shape }) => sum + shape.length_mm, 0)
  const tallest = Math.max(1, ...shapes.value.map(({ shape }) => shape.half_height_mm * 2))
  return Math.max(0.02, Math.min(free / Math.max(1, total), (GROUND - 20) / tallest, 0.4))
})
const placed = computed(() => {
  let x = 12
  return shapes.value.map(({ telescope, shape }) => {
    const long = shape.length_mm * scale.value
    const left = x
    x += Math.max(long, LEAST_PX) + SPACE_PX
    const tube = telescope.aperture_mm * 0.6 * scale.value
    return { telescope, shape, left, long, centre: GROUND - tube - 4, button: Math.max(long, LEAST_PX) }
  })
})
const needed = computed(() => Math.max(width.value, (placed.value.at(-1)?.left ?? 0) + (placed.value.at(-1)?.button ?? 0) + 20))
const ruler = computed(() => 500 * scale.value)
const PLAIN = { refractor: 'refractor', newtonian: 'Newtonian', catadioptric: 'catadioptric' }
</script>

<template>
  <div ref="host" class="shelf">
    <svg :width="needed" :height="HEIGHT" role="group" aria-label="Telescopes drawn to one scale">
      <line x1="0" :x2="needed" :y1="GROUND" :y2="GROUND" class="ground" />
      <g
        v-for="one in placed" :key="one.telescope.id ?? one.telescope.name" class="telescope" :class="{ chosen: one.telescope.id === chosenId }"
        role="button" tabindex="0" :aria-label="`${one.telescope.name}, ${one.telescope.aperture_mm} mm, open`"
        @click="$emit('open', one.telescope)" @keydown.enter="$emit('open', one.telescope)"
      >
        <rect :x="one.left - 8" y="2" :width="one.button + 16" :height="HEIGHT - 4" rx="10" class="touch" />
        <g :transform="`translate(${one.left + one.shape.front_mm * scale} ${one.centre}) scale(${scale})`">
          <path v-for="outline in one.shape.outlines" :key="outline" :d="outline" class="tube" vector-effect="non-scaling-stroke" />
        </g>
        <text :x="one.left" :y="GROUND + 24" class="name">{{ one.telescope.name }}</text>
        <text :x="one.left" :y="GROUND + 44" class="fact">
          {{ one.telescope.aperture_mm }}/{{ one.telescope.focal_length_mm }} mm {{ PLAIN[one.telescope.design] }}
        </text>
      </g>
      <g v-if="placed.length" :transform="`translate(${needed - ruler - 16} 18)`" class="ruler">
        <path :d="`M0 -5v10M0 0h${ruler}M${ruler} -5v10`" />
        <text :x="ruler / 2" y="20" text-anchor="middle">half a metre</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.shelf { overflow: auto hidden; width: 100%; }
.ground { stroke: var(--ink-quiet); stroke-width: 1.5; }
.touch { fill: transparent; }
.telescope { cursor: pointer; outline: none; }
.telescope:hover .touch { fill: var(--jade-wash); }
.telescope:focus-visible .touch { stroke: var(--jade); stroke-width: 3; }
.tube { fill: var(--surface); stroke: var(--ink); stroke-width: 1.6; }
.chosen .tube { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 2.2; }
.chosen .name { fill: var(--jade); }
.name { font-weight: 700; font-size: 16px; }
.fact, .ruler text { font-size: 14px; fill: var(--ink-quiet); }
.ruler path { stroke: var(--ink-quiet); fill: none; }
</style>
