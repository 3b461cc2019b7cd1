<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import type { Finder, Telescope } from '@/api/items'
import { telescopeShape } from '@/drawings/telescopeShape'
import { useWidth } from '@/shell/width'

const props = defineProps<{ telescopes: readonly Telescope[], tubes: readonly Schema<'TubeShape'>[], finders: readonly Finder[], chosenId: number | null }>()
defineEmits<{ open: [telescope: Telescope] }>()
const HEIGHT = 176
const GROUND = 124
const SPACE_PX = 36
const LEAST_PX = 160
const RULER_PX = 60
const LARGEST_SCALE = 0.4
/** Smaller than this nobody sees what is drawn: the shelf is scrolled instead. */
const LEAST_SCALE = 0.2
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)

const shapes = computed(() => props.telescopes.flatMap(telescope => {
  const along = props.tubes.find(one => one.telescope_id === telescope.id)
  const own = props.finders.filter(finder => finder.telescope_id === telescope.id)
  return along ? [{ telescope, shape: telescopeShape(telescope, along, own) }] : []
}))
const scale = computed(() => {
  const free = width.value - SPACE_PX * (shapes.value.length + 1) - RULER_PX
  const total = shapes.value.reduce((sum, { shape }) => sum + shape.length_mm, 0)
  const tallest = Math.max(1, ...shapes.value.map(({ shape }) => shape.above_mm + shape.below_mm))
  return Math.max(LEAST_SCALE, Math.min(free / Math.max(1, total), (GROUND - 12) / tallest, LARGEST_SCALE))
})
const placed = computed(() => {
  let x = 12
  return shapes.value.map(({ telescope, shape }) => {
    const wide = Math.max(shape.length_mm * scale.value, LEAST_PX)
    const left = x
    x += wide + SPACE_PX
    return { telescope, shape, left, wide, axis: GROUND - 4 - shape.below_mm * scale.value }
  })
})
const needed = computed(() => Math.max(width.value, (placed.value.at(-1)?.left ?? 0) + (placed.value.at(-1)?.wide ?? 0) + RULER_PX))
const ruler = computed(() => 200 * scale.value)
const PLAIN: Record<string, string> = { refractor: 'refractor', newtonian: 'Newtonian', catadioptric: 'catadioptric' }
const factsOf = (one: Telescope) => `${one.aperture_mm}/${one.focal_length_mm} mm ${PLAIN[one.design]}`
</script>

<template>
  <div ref="host" class="shelf">
    <svg :width="needed" :height="HEIGHT" role="group" aria-label="Telescopes drawn to one scale">
      <line x1="0" :x2="needed" :y1="GROUND" :y2="GROUND" class="ground" />
      <g
        v-for="one in placed" :key="one.telescope.id ?? one.telescope.name" class="telescope"
        :class="{ chosen: one.telescope.id === chosenId }"
        role="button" tabindex="0" :aria-label="`${one.telescope.name} ${factsOf(one.telescope)}`"
        :aria-description="one.shape.pivot_mm === null ? undefined : `Pivot ${one.shape.pivot_mm} mm from the front`"
        @click="$emit('open', one.telescope)" @keydown.enter="$emit('open', one.telescope)"
        @keydown.space.prevent="$emit('open', one.telescope)"
      >
        <rect :x="one.left - 8" y="2" :width="one.wide + 16" :height="HEIGHT - 4" rx="10" class="touch" />
        <g :transform="`translate(${one.left} ${one.axis}) scale(${scale})`">
          <path v-for="outline in one.shape.outlines" :key="outline" :d="outline" class="tube"
            vector-effect="non-scaling-stroke" />
          <path v-for="(outline, n) in one.shape.finders" :key="n" :d="outline" class="finder"
            vector-effect="non-scaling-stroke" />
        </g>
        <g v-if="one.shape.pivot_mm !== null"
          :transform="`translate(${one.left + one.shape.pivot_mm * scale} ${one.axis})`" class="pivot">
          <circle r="5" /><path d="M-5 0h10M0 -5v10" />
        </g>
        <text :x="one.left" :y="GROUND + 24" class="name">{{ `${one.telescope.name} ` }}</text>
        <text :x="one.left" :y="GROUND + 44" class="fact">
          {{ factsOf(one.telescope) }}
        </text>
      </g>
      <g v-if="placed.length" :transform="`translate(${needed - ruler - 8} 14)`" class="ruler">
        <path :d="`M0 -5v10M0 0h${ruler}M${ruler} -5v10`" />
        <text :x="ruler / 2" y="20" text-anchor="middle">20 cm</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.shelf { overflow: auto hidden; width: 100%; flex: none; }
.ground { stroke: var(--ink-quiet); stroke-width: 1.5; }
.touch { fill: transparent; }
.telescope { cursor: pointer; outline: none; }
.telescope:hover .touch { fill: var(--jade-wash); }
.telescope:focus-visible .touch { stroke: var(--jade); stroke-width: 3; }
.tube { fill: var(--surface); stroke: var(--ink); stroke-width: 1.6; }
.finder { fill: var(--ground); stroke: var(--ink-quiet); stroke-width: 1.4; }
.chosen .tube { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 2.2; }
.chosen .name { fill: var(--jade); }
.pivot circle { fill: var(--surface); stroke: var(--ink); stroke-width: 1.4; } .pivot path { stroke: var(--ink); stroke-width: 1.2; }
.name { font-weight: 700; font-size: 16px; }
.fact, .ruler text { font-size: 14px; fill: var(--ink-quiet); }
.ruler path { stroke: var(--ink-quiet); fill: none; }
</style>
