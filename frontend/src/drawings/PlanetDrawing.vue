<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { litPath } from './litDisc'

const props = defineProps<{ body: Schema<'DiscBody'>, radius: number }>()
const BELTS_FROM = 6
const upright = computed(() => props.body.pole_deg === null ? 0 : 90 - props.body.pole_deg)
const ring = computed(() => {
  const { ring_inner: inner, ring_outer: outer, ring_tilt_deg: tilt } = props.body
  if (inner === null || outer === null || tilt === null) return null
  const flat = Math.abs(Math.sin(tilt * Math.PI / 180))
  const half = (share: number, sweep: number) => {
    const across = share * props.radius
    return `M${-across} 0A${across} ${across * flat} 0 0 ${sweep} ${across} 0`
  }
  const nearSweep = tilt > 0 ? 0 : 1
  const band = (sweep: number) => {
    const back = inner * props.radius
    return `${half(outer, sweep)}L${back} 0A${back} ${back * flat} 0 0 ${1 - sweep} ${-back} 0z`
  }
  return { far: band(1 - nearSweep), near: band(nearSweep) }
})
const belts = computed(() => [-0.28, 0.28].map(y => `M${-props.radius * 0.93} ${props.radius * y}H${props.radius * 0.93}`).join(''))
</script>

<template>
  <g :transform="`rotate(${upright})`">
    <path v-if="ring" :d="ring.far" class="lit band" />
    <template v-if="body.pole_deg !== null">
      <ellipse :rx="radius" :ry="radius * body.polar_share" class="lit" />
      <template v-if="radius > BELTS_FROM && body.body === 'jupiter'">
        <path
          :d="belts"
          class="belt" :stroke-width="radius * 0.13" />
      </template>
    </template>
    <path v-if="ring" :d="ring.near" class="lit band" />
  </g>
  <g v-if="body.pole_deg === null" :transform="`rotate(${-body.bright_limb_deg})`">
    <circle :r="radius" class="unlit" />
    <path :d="litPath(radius, body.lit)" class="lit" />
  </g>
</template>

<style scoped>
.lit { fill: var(--field-ink); }
.band { opacity: 0.85; }
.unlit { fill: var(--field-ink); opacity: 0.14; }
.belt { stroke: var(--field); opacity: 0.45; fill: none; }
</style>
