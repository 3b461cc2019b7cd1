<script setup lang="ts">
import { computed } from 'vue'
import { litPath } from './litDisc'

export interface DiscObject {
  label: string
  diameter_arcsec: number
  lit_percent: number
}
const props = defineProps<{ fieldDeg: number, object: DiscObject | null }>()
const R = 100
const LEAST_DOT = 1.2
const radius = computed(() => props.object ? props.object.diameter_arcsec / 3600 / props.fieldDeg * R : 0)
const share = computed(() => radius.value / R)
const words = computed(() => props.object
  ? `${props.object.label} in a field of ${props.fieldDeg.toFixed(2)} degrees, ${(share.value * 100).toFixed(1)} percent across`
  : `A field of ${props.fieldDeg.toFixed(2)} degrees`)
</script>

<template>
  <svg class="disc" viewBox="-106 -106 212 212" role="img" :aria-label="words">
    <defs><clipPath id="field-edge"><circle :r="R" /></clipPath></defs>
    <circle :r="R" class="field" />
    <g clip-path="url(#field-edge)">
      <template v-if="object">
        <circle v-if="radius < LEAST_DOT" :r="LEAST_DOT" class="lit" />
        <template v-else>
          <circle :r="radius" class="unlit" />
          <path :d="litPath(radius, object.lit_percent / 100)" class="lit" />
        </template>
        <circle v-if="radius < 6" r="9" class="pointer" />
      </template>
    </g>
    <circle :r="R" class="stop" />
  </svg>
</template>

<style scoped>
.disc { width: 100%; height: 100%; display: block; }
.field { fill: var(--field); }
.stop { fill: none; stroke: var(--field-ring); stroke-width: 4; }
.lit { fill: var(--field-ink); }
.unlit { fill: var(--field-ink); opacity: 0.12; }
.pointer { fill: none; stroke: var(--field-ink); stroke-width: 0.6; stroke-dasharray: 2 2; opacity: 0.8; }
</style>
