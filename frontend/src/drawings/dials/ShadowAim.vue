<script setup lang="ts">
import { computed } from 'vue'

/** The tube's shadow on a sheet: round when aimed, longer the farther it points past the Sun. */
const props = defineProps<{ lengthMm: number, widthMm: number, isAimed: boolean }>()
const scale = computed(() => Math.min(0.5, 300 / Math.max(1, props.lengthMm)))
const long = computed(() => Math.max(props.lengthMm, props.widthMm) * scale.value)
const wide = computed(() => props.widthMm * scale.value)
</script>

<template>
  <svg viewBox="0 0 360 180" class="shadow" role="img"
    :aria-label="isAimed ? 'The shadow is smallest: aimed' : 'The shadow is long: not aimed yet'">
    <rect x="6" y="10" width="348" height="160" rx="10" class="sheet" />
    <rect :x="180 - long / 2" :y="90 - wide / 2" :width="long" :height="wide" :rx="wide / 2" class="dark" />
    <circle cx="180" cy="90" :r="wide / 2" class="goal" />
  </svg>
</template>

<style scoped>
.shadow { width: 100%; max-height: 190px; display: block; }
.sheet { fill: var(--surface); stroke: var(--line); stroke-width: 2; }
.dark { fill: var(--ink-quiet); opacity: 0.6; }
.goal { fill: none; stroke: var(--jade); stroke-width: 3; stroke-dasharray: 5 4; }
</style>
