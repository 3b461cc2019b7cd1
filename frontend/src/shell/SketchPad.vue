<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import SketchView from '@/drawings/SketchView.vue'

type Stroke = Schema<'Stroke'>
/** A sketch in a round field, by pointer or finger; red in the dark like everything else. */
const strokes = defineModel<readonly Stroke[]>({ required: true })
const PENCILS = { fine: 'Fine', soft: 'Soft', broad: 'Broad' } as const
const REACH = 1000
const STEP = 5
const pencil = ref<keyof typeof PENCILS>('soft')
const drawn = ref<number[]>([])
const host = ref<HTMLElement | null>(null)

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
const all = computed(() => drawn.value.length ? [...strokes.value, { points: drawn.value, pencil: pencil.value }] : strokes.value)
</script>

<template>
  <div class="sketch">
    <div ref="host" class="pad" @pointerdown.prevent="onDown" @pointermove="onMove" @pointerup="onUp"
      @pointercancel="onUp">
      <SketchView :strokes="all" :label="`Sketch of the field, ${strokes.length} strokes`" />
    </div>
    <div class="tools">
      <v-btn-toggle role="group" v-model="pencil" mandatory divided variant="outlined" aria-label="Pencil">
        <v-btn v-for="(word, name) in PENCILS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <v-btn :disabled="!strokes.length" @click="strokes = strokes.slice(0, -1)">Undo</v-btn>
    </div>
  </div>
</template>

<style scoped>
.sketch { display: grid; gap: 8px; }
.pad { touch-action: none; cursor: crosshair; } .pad :deep(svg) { width: 100%; display: block; }
.tools { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
