<script setup lang="ts">
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import type { Schema } from '@/api/client'
import { pointIn } from '@/drawings/dials/compass'

/** What the eye sees, as that view turns or mirrors it. Dragging or the arrow keys push the tube, not the picture. */
const props = defineProps<{ view: Schema<'EyeView'>, centre: readonly number[], isStill?: boolean }>()
const emit = defineEmits<{ push: [right: number, up: number] }>()
const R = 150
const scale = computed(() => R / props.view.radius_arcmin)
/** A push under way, in arcmin; it is told when the hand lets go. */
const held = shallowRef<{ x: number, y: number, right: number, up: number } | null>(null)
const svg = useTemplateRef<SVGSVGElement>('svg')
const place = computed(() => {
  const [right = 0, up = 0] = props.centre
  const [[a, b], [c, d]] = props.view.matrix
  const k = scale.value
  const [x, y] = [right + (held.value?.right ?? 0), up + (held.value?.up ?? 0)]
  return `matrix(${k * a} ${-k * c} ${-k * b} ${k * d} 0 0) translate(${-x} ${y})`
})
function onDown (event: PointerEvent) {
  if (!svg.value || props.isStill) return
  svg.value.setPointerCapture(event.pointerId)
  held.value = { ...pointIn(svg.value, event), right: 0, up: 0 }
}
function onMove (event: PointerEvent) {
  if (!svg.value || !held.value || !svg.value.hasPointerCapture(event.pointerId)) return
  const now = pointIn(svg.value, event)
  held.value = { ...held.value, right: (now.x - held.value.x) / scale.value, up: -(now.y - held.value.y) / scale.value }
}
function onUp () {
  const was = held.value
  if (was && Math.hypot(was.right, was.up) * scale.value > 3) emit('push', was.right, was.up)
  else held.value = null
}
// what was pushed is told by the answer; until then the picture stays where the hand left it
watch(() => props.view, () => { held.value = null })
const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
function onKey (event: KeyboardEvent) {
  const way = WAYS[event.key]
  if (!way || props.isStill) return
  event.preventDefault()
  const size = props.view.nudges_arcmin[event.shiftKey ? 1 : 0] ?? 0
  emit('push', way[0] * size, way[1] * size)
}
const isSight = computed(() => ['dot', 'ring'].includes(props.view.finder_kind))
/** Lines keep their width however near one looks; what is too small to be seen is left out. */
const shown = computed(() => props.view.things.filter(one => one.kind === 'star' || one.size_arcmin * scale.value > 1.5))
const starR = (size: number) => Math.max(1, size * 3.2) / scale.value
const tip = computed(() => 9 / scale.value)
const words = computed(() => `${props.view.target_words}, seen ${props.view.eye === 'main' ? 'through the main tube' : props.view.eye === 'finder' ? 'through the finder' : 'along the tube'}`)
</script>

<template>
  <svg ref="svg" viewBox="-160 -160 320 320" class="seen" :class="view.scenery"
    :tabindex="isStill ? undefined : 0" :role="isStill ? 'img' : 'application'"
    :aria-label="`The view: ${words}${isStill ? '' : '. Drag, or use the arrow keys, to push the tube'}`"
    @pointerdown="onDown" @pointermove="onMove" @pointerup="onUp" @pointercancel="held = null" @keydown="onKey">
    <defs><clipPath id="seen-edge"><circle :r="R" /></clipPath></defs>
    <circle :r="R" class="sky" />
    <g clip-path="url(#seen-edge)">
      <g :transform="place">
        <rect v-if="view.scenery === 'day'" x="-20000" y="25" width="40000" height="40000" class="ground" />
        <template v-for="(one, n) in shown" :key="n">
          <circle v-if="one.kind === 'star'" :cx="one.right" :cy="-one.up" :r="starR(one.size_arcmin)" class="star" />
          <g v-else :transform="`translate(${one.right} ${-one.up}) scale(${one.size_arcmin})`">
            <path v-if="one.kind === 'house'" d="M-.6 0V-.6L0 -1L.6 -.6V0z" class="solid" />
            <path v-else-if="one.kind === 'tree'" d="M-.05 0V-.4H-.3L0 -1.2L.3 -.4H.05V0z" class="solid" />
            <path v-else-if="one.kind === 'hill'" d="M-2 0Q0 -1.6 2 0z" class="hill"
              vector-effect="non-scaling-stroke" />
            <path v-else d="M-.02 0V-1.1H.02V0z" class="solid" />
          </g>
        </template>
        <circle v-if="view.target === 'star'" :r="starR(1.6)" class="star" />
        <path v-else :d="`M${-tip / 2} 30V${tip}L0 0L${tip / 2} ${tip}V30z`" class="target" />
      </g>
      <template v-if="view.eye === 'finder'">
        <template v-if="isSight">
          <circle v-if="view.finder_kind === 'ring'" r="26" class="cross" />
          <circle v-if="view.finder_kind === 'ring'" r="62" class="cross" />
          <circle r="4" class="dot" /><circle r="10" class="cross" />
        </template>
        <path v-else :d="`M${-R} 0H-9M9 0H${R}M0 ${-R}V-9M0 9V${R}`" class="cross" />
      </template>
      <path v-else-if="view.eye === 'along'" d="M-30 150L-8 8M30 150L8 8" class="cross" />
    </g>
    <circle :r="R" class="stop" />
  </svg>
</template>

<style scoped>
.seen { width: 100%; height: 100%; display: block; touch-action: none; cursor: grab; border-radius: 14px; }
.seen:active { cursor: grabbing; }
.sky { fill: var(--field); }
.day .sky { fill: var(--jade-wash); }
.stop { fill: none; stroke: var(--ink); stroke-width: 5; }
.ground { fill: var(--line); } .hill { fill: var(--line); stroke: var(--ink-quiet); stroke-width: 1.5; }
.solid { fill: var(--ink-quiet); }
.target { fill: var(--brass); stroke: var(--ink); stroke-width: 1.5; vector-effect: non-scaling-stroke; }
.star { fill: var(--field-ink); }
.cross { fill: none; stroke-width: 2; stroke: var(--field-ink); } .dot { fill: var(--field-ink); }
.day .cross { stroke: var(--ink); } .day .dot { fill: var(--ink); }
</style>
