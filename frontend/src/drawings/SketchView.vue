<script setup lang="ts">
import type { Schema } from '@/api/client'
import { PENCIL_WIDTH, sketchLine } from './sketchLine'

/** A sketch as it was drawn, in its round field. */
defineProps<{ strokes: readonly Schema<'Stroke'>[], label: string }>()
</script>

<template>
  <svg viewBox="-1060 -1060 2120 2120" role="img" :aria-label="label" class="sketch">
    <circle r="1000" class="field" />
    <path v-for="(one, n) in strokes" :key="n" :d="sketchLine(one.points)" class="stroke" :class="one.pencil"
      :style="{ strokeWidth: PENCIL_WIDTH[one.pencil ?? 'soft'] }" />
    <circle r="1000" class="stop" />
  </svg>
</template>

<style scoped>
.field { fill: var(--field); } .stop { fill: none; stroke: var(--field-ring); stroke-width: 30; }
.stroke { fill: none; stroke: var(--field-ink); stroke-linecap: round; stroke-linejoin: round; }
.broad { opacity: 0.35; } .soft { opacity: 0.8; }
</style>
