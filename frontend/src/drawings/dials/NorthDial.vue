<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { onDial, POINTS } from './compass'

/** A rose with true north on top: what the compass shows, the shadow, Polaris, the live needle. */
const props = defineProps<{ board: Schema<'NorthBoard'>, liveDeg: number | null, errorDeg: number | null }>()
const R = 140
const magnetic = computed(() => props.board.magnetic)
/** True azimuth the live compass mark points to. */
const live = computed(() => props.liveDeg === null || !magnetic.value ? null : props.liveDeg + magnetic.value.declination_deg)
const EXAGGERATED = 20
/** Where the shadow's word stands: inside the rose, clockwise of the shadow. */
const beside = computed(() => props.board.shadow.shadow_azimuth_deg === null ? null : onDial(props.board.shadow.shadow_azimuth_deg + 26, 84))
</script>

<template>
  <svg viewBox="-176 -176 352 352" class="rose" role="img"
    :aria-label="`Compass rose. ${board.magnetic_words} ${board.shadow.words} ${board.polaris_words}`">
    <circle :r="R" class="rim" />
    <path v-for="n in 36" :key="n" :d="`M0 ${-R}V${n % 9 === 0 ? -R + 14 : -R + 7}`" :transform="`rotate(${n * 10})`"
      class="tick" />
    <text v-for="[word, azimuth] in POINTS" :key="word" :x="onDial(azimuth, R + 16).x"
      :y="onDial(azimuth, R + 16).y + 5" text-anchor="middle" class="point">{{ word }}</text>
    <path :d="`M0 ${R - 26}V${-R + 22}m-8 14l8 -15l8 15`" class="true" />
    <text x="12" :y="-R + 62" class="word">true north</text>
    <g v-if="magnetic" :transform="`rotate(${magnetic.declination_deg})`"><path :d="`M0 ${R - 40}V${-R + 40}`"
      class="magnetic" /><text x="-8" y="66" text-anchor="end" class="word brass">magnetic
      {{ magnetic.declination_deg > 0 ? '+' : '−' }}{{ Math.abs(magnetic.declination_deg).toFixed(1) }}°</text></g>
    <g v-if="board.shadow.shadow_azimuth_deg !== null" :transform="`rotate(${board.shadow.shadow_azimuth_deg})`"><path
      :d="`M0 0V${-R + 8}`" class="shadow" /></g>
    <text v-if="beside" :x="beside.x" :y="beside.y + 5" text-anchor="middle" class="word">shadow
      {{ board.shadow.shadow_azimuth_deg?.toFixed(1) }}°</text>
    <g v-if="board.polaris" :transform="`rotate(${board.polaris.azimuth_offset_deg * EXAGGERATED})`"><path
      :d="`M0 ${-R - 2}l2.6 6l6.4 .6l-4.8 4.4l1.4 6.4l-5.6 -3.4l-5.6 3.4l1.4 -6.4l-4.8 -4.4l6.4 -.6z`" class="polaris"
      /></g>
    <g v-if="live !== null" :transform="`rotate(${live})`"><path :d="`M-9 0L0 ${-R + 30}L9 0z`" class="live" /></g>
    <g v-if="errorDeg !== null && Math.abs(errorDeg) > 0.05" :transform="`rotate(${errorDeg})`"><path
      :d="`M0 -40V${-R}`" class="mount" /></g>
    <circle r="5" class="hub" />
  </svg>
</template>

<style scoped>
.rose { width: 100%; height: 100%; display: block; }
.rim { fill: var(--surface); stroke: var(--ink); stroke-width: 2.5; }
.tick { stroke: var(--ink-quiet); stroke-width: 1.5; }
.point { font-weight: 700; font-size: 17px; }
.true { stroke: var(--ink); stroke-width: 4; fill: none; }
.magnetic { stroke: var(--brass); stroke-width: 3; stroke-dasharray: 8 5; }
.shadow { stroke: var(--ink-quiet); stroke-width: 7; stroke-linecap: round; opacity: 0.55; }
.polaris { fill: var(--jade); }
.live { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 3; }
.mount { stroke: var(--brass); stroke-width: 5; }
.hub { fill: var(--ink); }
.word { font-size: 15px; paint-order: stroke; stroke: var(--surface); stroke-width: 4px; } .brass { fill: var(--brass-ink); }
</style>
