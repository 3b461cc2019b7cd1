<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { onDial } from './compass'

/** The finder's ring seen from behind: which screw out, which in. */
const props = defineProps<{ screws: readonly Schema<'ScrewTurn'>[] }>()
const R = 46
const shown = computed(() => props.screws.map(screw => ({
  ...screw,
  ...onDial(screw.hour * 30, 1),
})))
</script>

<template>
  <svg viewBox="-124 -104 248 208" class="ring" role="img"
    :aria-label="`Screws seen from behind: ${shown.map(one => `${one.hour} o'clock ${one.words}`).join(', ')}`">
    <circle :r="R" class="outer" /><circle r="22" class="tube" />
    <g v-for="screw in shown" :key="screw.hour">
      <line :x1="screw.x * 24" :y1="screw.y * 24" :x2="screw.x * 60" :y2="screw.y * 60"
        :class="['screw', { out: screw.way === 'out', in: screw.way === 'in' }]" />
      <text :x="screw.x * 88" :y="screw.y * 78 - 6 + (screw.y < -0.5 ? -6 : 4)" text-anchor="middle"
        class="hour">{{ screw.hour }} h</text>
      <text :x="screw.x * 88" :y="screw.y * 78 + 9 + (screw.y < -0.5 ? -6 : 4)" text-anchor="middle"
        class="figures turns">{{ screw.words }}</text>
    </g>
  </svg>
</template>

<style scoped>
.ring { width: 100%; height: 100%; display: block; }
.outer { fill: none; stroke: var(--ink); stroke-width: 4; }
.tube { fill: var(--surface); stroke: var(--ink-quiet); stroke-width: 2.5; }
.screw { stroke: var(--ink-quiet); stroke-width: 5; stroke-linecap: round; }
.screw.out { stroke: var(--brass); stroke-width: 8; }
.screw.in { stroke: var(--jade); stroke-width: 8; }
.hour { font-size: 13px; font-weight: 700; } .turns { font-size: 13px; }
</style>
