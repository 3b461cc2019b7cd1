<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import { useWidth } from '@/shell/width'

/** Jupiter and its four bright moons, as an upright and unmirrored view shows them: west to the right. */
const props = defineProps<{ moons: readonly Schema<'MoonPlace'>[] }>()
const host = ref<HTMLElement | null>(null)
const width = useWidth(host)
const FARTHEST = 28
const MIDDLE = 26
const x = computed(() => scaleLinear([-FARTHEST, FARTHEST], [8, Math.max(9, width.value - 8)]))
const radius = computed(() => x.value(1) - x.value(0))
const places = computed(() => props.moons.filter(moon => moon.state !== 'hidden').map((moon, n) => ({
  name: moon.name, x: x.value(moon.west_radii), y: MIDDLE - moon.north_radii * radius.value, word_y: n % 2 ? 12 : 50,
})))
const hidden = computed(() => props.moons.filter(moon => moon.state === 'hidden').map(moon => moon.name))
</script>

<template>
  <div ref="host">
    <svg :width="width" height="56" role="img"
      :aria-label="places.map(one => `${one.name} ${one.x > x(0) ? 'west' : 'east'} of Jupiter`).join(', ')">
      <line x1="0" :x2="width" :y1="MIDDLE" :y2="MIDDLE" class="plane" />
      <ellipse :cx="x(0)" :cy="MIDDLE" :rx="radius" :ry="radius * 0.94" class="disc" />
      <g v-for="one in places" :key="one.name">
        <circle :cx="one.x" :cy="one.y" r="3" class="moon" />
        <text :x="one.x" :y="one.word_y" text-anchor="middle" class="name">{{ one.name }}</text>
      </g>
    </svg>
    <p class="small quiet">East is left, west right.<template v-if="hidden.length"> {{ hidden.join(', ') }} hidden
      behind the planet.</template></p>
  </div>
</template>

<style scoped>
svg { display: block; overflow: visible; }
.plane { stroke: var(--line); } .disc { fill: var(--brass-wash); stroke: var(--ink-quiet); } .moon { fill: var(--ink); }
.name { font-size: 12px; fill: var(--ink-quiet); }
</style>
