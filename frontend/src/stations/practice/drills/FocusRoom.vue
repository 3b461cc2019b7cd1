<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { usePractice } from '@/stores/practice'

/** A star in the eyepiece and the focuser's knob: out, in, its lock, and what is wrong where nothing is seen. */
const props = defineProps<{ scene: Schema<'FocusScene'> }>()
const practice = usePractice()
const make = (kind: Schema<'FocusMove'>['kind'], values: { turns?: number, answer?: 'focus' | 'pointing' } = {}) =>
  practice.make({ drill: 'focus', kind, turns: 0, answer: 'focus', ...values })
const R = 150
const LEAST_R = 2.2
const radius = computed(() => {
  const share = props.scene.disc_share ?? null
  return share === null ? null : Math.max(LEAST_R, share * R)
})
/** The same light over more of the field. */
const glow = computed(() => radius.value === null ? 0 : Math.max(0.12, Math.min(1, 18 / radius.value)))
const words = computed(() => radius.value === null ? 'nothing in the field'
  : `a disc of ${(radius.value / R * 100).toFixed(0)} percent of the field`)
const WAYS = [['Out', 1], ['In', -1]] as const
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <p><b>{{ scene.who }}</b>, {{ scene.eyepiece_mm }} mm
        <span class="quiet"> · look {{ scene.stage }} of {{ scene.stages }}</span></p>
      <svg viewBox="-160 -160 320 320" class="seen" role="img" :aria-label="`The star: ${words}`">
        <circle :r="R" class="sky" />
        <g v-if="radius !== null" :style="{ opacity: glow }">
          <circle :r="radius" class="star" />
          <circle v-if="scene.shadow_share && radius > 6" :r="radius * scene.shadow_share" class="sky" />
        </g>
        <circle :r="R" class="stop" />
      </svg>
    </div>
    <div class="hands">
      <div v-for="[way, sign] in WAYS" :key="way" class="row" role="group" :aria-label="`Turn the focus ${way}`">
        <v-btn v-for="(turns, n) in scene.turns" :key="turns" class="edged"
          @click="make('turn', { turns: sign * turns })">{{ way }} {{ scene.turn_words[n] }}</v-btn>
      </div>
      <v-btn class="edged" @click="make('unlock')">Open the focuser's lock</v-btn>
      <div v-if="scene.is_question" class="row">
        <v-btn class="edged" @click="make('say', { answer: 'focus' })">It is the focus</v-btn>
        <v-btn class="edged" @click="make('say', { answer: 'pointing' })">It is the pointing</v-btn>
      </div>
      <div class="row">
        <v-btn class="edged" @click="make('ask')">Ask the mentor</v-btn>
        <v-btn v-if="!scene.is_question" color="primary" variant="flat" @click="make('sharp')">It is sharp</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.seen { display: block; } .sky { fill: var(--field); } .star { fill: var(--field-ink); } .stop { fill: none; stroke: var(--ink); stroke-width: 5; }
.row .v-btn { padding: 0 6px; min-width: 0; white-space: normal; }
</style>
