<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'

type Stroke = Schema<'Stroke'>
/** A sketch in a round field, by pointer or finger; red in the dark like everything else. */
const strokes = defineModel<readonly Stroke[]>({ required: true })
const PENCILS = { fine: 'Fine', soft: 'Soft', broad: 'Broad' } as const
const WIDTH = { fine: 5, soft: 14, broad: 46 } as const
const REACH = 1000
const STEP = 5
const pencil = ref<keyof typeof PENCILS>('soft')
const drawn = ref<number[]>([])
const host = ref<SVGSVGElement | null>(null)

/** Where a pointer is, in thousandths of the field, held inside it. */
function place (event: PointerEvent): [number, number] {
  const box = host.value!.getBoundingClientRect()
  const [x, y] = [(event.clientX - box.left) / box.width * 2.12 - 1.06, 1.06 - (event.clientY - box.top) / box.height * 2.12]
  const far = Math.max(1, Math.hypot(x, y))
  return [Math.round(x / far * REACH), Math.round(y / far * REACH)]
}
function onDown (event: PointerEvent) {
  host.value!.setPointerCapture(event.pointerId)
  drawn.value = place(event)
}
function onMove (event: PointerEvent) {
  if (!drawn.value.length) return
  const [x, y] = place(event)
  const [lastX = 0, lastY = 0] = drawn.value.slice(-2)
  if (Math.hypot(x - lastX, y - lastY) >= STEP) drawn.value = [...drawn.value, x, y]
}
function onUp () {
  if (drawn.value.length) strokes.value = [...strokes.value, { points: drawn.value, pencil: pencil.value }]
  drawn.value = []
}
/** A line through its points; a single one is a dot. */
function line (points: readonly number[]): string {
  const pairs: string[] = []
  for (let n = 0; n < points.length; n += 2) pairs.push(`${points[n]} ${-(points[n + 1] ?? 0)}`)
  return `M${pairs[0]}L${pairs.slice(pairs.length > 1 ? 1 : 0).join('L')}`
}
const all = computed(() => drawn.value.length ? [...strokes.value, { points: drawn.value, pencil: pencil.value }] : strokes.value)
</script>

<template>
  <div class="sketch">
    <svg ref="host" viewBox="-1060 -1060 2120 2120" role="img"
      :aria-label="`Sketch of the field, ${strokes.length} strokes`"
      @pointerdown.prevent="onDown" @pointermove="onMove" @pointerup="onUp" @pointercancel="onUp">
      <circle r="1000" class="field" />
      <path v-for="(one, n) in all" :key="n" :d="line(one.points)" class="stroke" :class="one.pencil"
        :style="{ strokeWidth: WIDTH[one.pencil ?? 'soft'] }" />
      <circle r="1000" class="stop" />
    </svg>
    <div class="tools">
      <v-btn-toggle v-model="pencil" mandatory divided variant="outlined" aria-label="Pencil">
        <v-btn v-for="(word, name) in PENCILS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <v-btn :disabled="!strokes.length" @click="strokes = strokes.slice(0, -1)">Undo</v-btn>
    </div>
  </div>
</template>

<style scoped>
.sketch { display: grid; gap: 8px; }
svg { width: 100%; touch-action: none; cursor: crosshair; }
.field { fill: var(--field); } .stop { fill: none; stroke: var(--field-ring); stroke-width: 30; }
.stroke { fill: none; stroke: var(--field-ink); stroke-linecap: round; stroke-linejoin: round; }
.broad { opacity: 0.35; } .soft { opacity: 0.8; }
.tools { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
