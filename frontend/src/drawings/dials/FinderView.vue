<script setup lang="ts">
import { computed } from 'vue'
import { usePointing } from './usePointing'

/** What the eye sees in the finder: its mark, the target where it stands, where it should stand. */
const props = defineProps<{
  kind: string
  /** Right and up in field radii. */
  seen: { right: number, up: number } | null
  wanted: { right: number, up: number } | null
  star: { right: number, up: number } | null
  on: 'landmark' | 'star' | 'moon'
}>()
const emit = defineEmits<{ seen: [right: number, up: number] }>()
const R = 150
const isSight = computed(() => props.kind === 'dot' || props.kind === 'ring')
const x = computed(() => (props.seen?.right ?? 0) * R)
const y = computed(() => -(props.seen?.up ?? 0) * R)
const { onDown, onMove, onKey } = usePointing(place => {
  const far = Math.max(1, Math.hypot(place.x, place.y) / R)
  const round = (value: number) => Math.round(value * 1000) / 1000
  emit('seen', round(place.x / R / far), round(-place.y / R / far))
}, () => ({ x: x.value, y: y.value }), () => R * 0.02)
const words = computed(() => !props.seen ? 'Not pointed at yet' : `The target stands ${(props.seen.right * 100).toFixed(0)} percent right and ${(props.seen.up * 100).toFixed(0)} percent up of the radius`)
</script>

<template>
  <svg
    ref="svg" viewBox="-170 -170 340 340" class="finder" tabindex="0" role="application"
    aria-label="The finder's view: point at where the target stands, or use the arrow keys"
    :aria-description="words" @pointerdown="onDown" @pointermove="onMove" @keydown="onKey"
  >
    <defs><clipPath id="finder-edge"><circle :r="R" /></clipPath></defs>
    <circle :r="R" class="field" />
    <g clip-path="url(#finder-edge)">
      <template v-if="isSight">
        <circle v-if="kind === 'ring'" r="26" class="cross" />
        <circle v-if="kind === 'ring'" r="62" class="cross" />
        <circle r="5" class="dot" />
      </template>
      <path v-else :d="`M${-R} 0H-9M9 0H${R}M0 ${-R}V-9M0 9V${R}`" class="cross" />
      <g v-if="wanted && Math.hypot(wanted.right, wanted.up) > 0.01"
        :transform="`translate(${wanted.right * R} ${-wanted.up * R})`">
        <circle r="13" class="wanted" /><text x="17" y="5" class="small-word">here</text>
      </g>
      <g v-if="star" :transform="`translate(${star.right * R} ${-star.up * R})`"><path
        d="M0 -8L2 -2L8 0L2 2L0 8L-2 2L-8 0L-2 -2z" class="star" /></g>
      <g v-if="seen" :transform="`translate(${x} ${y})`">
        <path v-if="on === 'landmark'" d="M-9 16V-4L0 -16L9 -4V16z" class="target" />
        <circle v-else :r="on === 'moon' ? 16 : 5" class="target" />
        <circle r="24" class="grip" />
      </g>
    </g>
    <circle :r="R" class="stop" />
  </svg>
</template>

<style scoped>
.finder { width: 100%; height: 100%; display: block; touch-action: none; cursor: crosshair; border-radius: 14px; }
.field { fill: var(--field); }
.stop { fill: none; stroke: var(--field-ring); stroke-width: 6; }
.cross { stroke: var(--field-ink); stroke-width: 2; fill: none; opacity: 0.85; }
.dot { fill: var(--field-ink); }
.target { fill: var(--field-ink); stroke: var(--field); stroke-width: 2; }
.grip { fill: none; stroke: var(--field-ink); stroke-width: 1.5; stroke-dasharray: 3 4; }
.wanted { fill: none; stroke: var(--field-ink); stroke-width: 2.5; }
.small-word { fill: var(--field-ink); font-size: 14px; }
.star { fill: none; stroke: var(--field-ink); stroke-width: 1.5; }
</style>
