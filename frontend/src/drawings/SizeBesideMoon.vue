<script setup lang="ts">
import { computed } from 'vue'

/** How wide a target is, drawn to scale beside the Moon. */
const props = defineProps<{ sizeArcmin: number, moonArcmin: number }>()
const isMoon = computed(() => props.sizeArcmin === props.moonArcmin)
const LEAST = 1.5, MIDDLE = 100, HEIGHT = 120
/** Drawing units for an arcmin: the wider of the two fills its half. */
const scale = computed(() => 88 / Math.max(props.sizeArcmin, props.moonArcmin))
const radius = (arcmin: number) => Math.max(LEAST, arcmin * scale.value / 2)
</script>

<template>
  <svg :viewBox="`0 0 ${2 * MIDDLE} ${HEIGHT}`" class="size" role="img"
    :aria-label="isMoon ? 'The Moon' : `${sizeArcmin} arcmin wide, beside the Moon of ${moonArcmin}`">
    <circle :cx="isMoon ? MIDDLE : 50" cy="50" :r="radius(sizeArcmin)" class="target" />
    <text :x="isMoon ? MIDDLE : 50" y="114">{{ sizeArcmin }}′</text>
    <template v-if="!isMoon">
      <circle cx="150" cy="50" :r="radius(moonArcmin)" class="moon" />
      <text x="150" y="114">the Moon, {{ moonArcmin }}′</text>
    </template>
  </svg>
</template>

<style scoped>
.size { display: block; overflow: visible; }
.target { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 2; } .moon { fill: none; stroke: var(--ink-quiet); stroke-width: 1.5; stroke-dasharray: 4 4; }
text { font-size: 12px; fill: var(--ink); text-anchor: middle; }
@media (max-width: 699px) { text { font-size: 18px; } }
</style>
