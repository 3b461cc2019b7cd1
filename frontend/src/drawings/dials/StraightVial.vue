<script setup lang="ts">
import { computed } from 'vue'
import { usePointing } from './usePointing'

/** A straight vial as seen from above its length; right is the end named `toward`. */
const props = defineProps<{ divisions: number, most: number, toward: string, away: string, label: string }>()
const emit = defineEmits<{ read: [divisions: number] }>()
const HALF = 150
const scale = computed(() => (HALF - 26) / props.most)
const marks = computed(() => Array.from({ length: 2 * Math.floor(props.most) + 1 }, (_, n) => n - Math.floor(props.most)))
const { onDown, onMove, onKey } = usePointing(({ x }) => {
  const read = Math.max(-props.most, Math.min(props.most, x / scale.value))
  emit('read', Math.round(read * 10) / 10)
}, () => ({ x: props.divisions * scale.value, y: 0 }), () => scale.value * 0.2)
</script>

<template>
  <svg
    ref="svg" viewBox="-190 -40 380 80" class="vial-svg" tabindex="0" role="slider" :aria-label="label"
    :aria-valuenow="divisions"
    :aria-valuemin="-most" :aria-valuemax="most" @pointerdown="onDown" @pointermove="onMove" @keydown="onKey"
  >
    <rect :x="-HALF" y="-19" :width="2 * HALF" height="38" rx="19" class="vial" />
    <path v-for="mark in marks" :key="mark" :d="`M${mark * scale} ${mark === 0 ? -19 : -10}V${mark === 0 ? 19 : 10}`"
      class="mark" />
    <rect :x="divisions * scale - 24" y="-13" width="48" height="26" rx="13" class="bubble" />
    <text x="-156" y="5" text-anchor="end" class="end">{{ away }}</text>
    <text x="156" y="5" class="end">{{ toward }}</text>
  </svg>
</template>

<style scoped>
.vial-svg { width: 100%; max-width: 460px; height: 96px; touch-action: none; cursor: ew-resize; border-radius: 12px; }
.vial { fill: var(--jade-wash); stroke: var(--ink); stroke-width: 3; }
.mark { stroke: var(--ink-quiet); stroke-width: 1.5; }
.bubble { fill: var(--jade); fill-opacity: 0.55; stroke: var(--jade); stroke-width: 2.5; }
.end { font-weight: 700; font-size: 15px; }
</style>
