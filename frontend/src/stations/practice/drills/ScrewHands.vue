<script setup lang="ts">
import { computed, ref } from 'vue'
import { onDial } from '@/drawings/dials/compass'

/** The finder's ring from behind: one screw is chosen, then turned out or in. */
const props = defineProps<{ hours: readonly number[], turns: readonly number[], turnWords: readonly string[], name: string }>()
const emit = defineEmits<{ turn: [screw: number, turns: number], snug: [], middle: [] }>()
const chosen = ref(0)
const screws = computed(() => props.hours.map((hour, n) => ({ n, hour, ...onDial(hour * 30, 1) })))
const hasSpring = computed(() => props.hours.length === 2)
</script>

<template>
  <div class="screws">
    <svg viewBox="-70 -62 140 124" class="ring" role="img" :aria-label="`Screws of ${name}, seen from behind`">
      <circle r="34" class="outer" /><circle r="17" class="tube" />
      <path v-if="hasSpring" d="M-24 24l5 -1l-1 5l5 -1l-1 5" class="spring" />
      <g v-for="one in screws" :key="one.n" class="screw" :class="{ on: one.n === chosen }" @click="chosen = one.n">
        <line :x1="one.x * 18" :y1="one.y * 18" :x2="one.x * 46" :y2="one.y * 46" />
        <circle :cx="one.x * 48" :cy="one.y * 48" r="11" class="head" />
        <text :x="one.x * 48" :y="one.y * 48 + 4" text-anchor="middle">{{ one.hour }}</text>
      </g>
    </svg>
    <div class="hands">
      <v-btn-toggle v-model="chosen" role="group" mandatory divided variant="outlined" aria-label="Which screw">
        <v-btn v-for="one in screws" :key="one.n" :value="one.n">{{ one.hour }} h</v-btn>
      </v-btn-toggle>
      <div class="row" role="group" aria-label="Loosen it"><span class="small">out</span>
        <v-btn v-for="(amount, n) in turns" :key="amount" :aria-label="`Out ${turnWords[n]} turn`"
          @click="emit('turn', chosen, amount)">{{ turnWords[n] }}</v-btn></div>
      <div class="row" role="group" aria-label="Tighten it"><span class="small">in</span>
        <v-btn v-for="(amount, n) in turns" :key="amount" :aria-label="`In ${turnWords[n]} turn`"
          @click="emit('turn', chosen, -amount)">{{ turnWords[n] }}</v-btn></div>
      <div class="row">
        <v-btn v-if="!hasSpring" @click="emit('snug')">Snug</v-btn>
        <v-btn @click="emit('middle')">All to middle</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.screws { display: grid; grid-template-columns: 130px minmax(0, 1fr); gap: 10px; align-items: center; }
.ring { width: 100%; display: block; }
.outer { fill: none; stroke: var(--ink); stroke-width: 4; } .tube { fill: var(--surface); stroke: var(--ink-quiet); stroke-width: 2.5; }
.spring { fill: none; stroke: var(--ink-quiet); stroke-width: 2; }
.screw { cursor: pointer; } .screw line { stroke: var(--ink-quiet); stroke-width: 5; }
.head { fill: var(--ground); stroke: var(--ink-quiet); stroke-width: 2; } .screw text { font-size: 12px; font-weight: 700; }
.on line { stroke: var(--brass); } .on .head { stroke: var(--brass); stroke-width: 4; fill: var(--brass-wash); }
.hands { display: grid; gap: 6px; }
.row { display: flex; gap: 6px; align-items: center; } .row span { width: 24px; flex: none; }
.row .v-btn { flex: 1 1 0; min-width: 0; padding: 0 4px; border: 1px solid var(--edge); }
.v-btn-toggle .v-btn { flex: 1; padding: 0 8px; min-width: 0; }
</style>
