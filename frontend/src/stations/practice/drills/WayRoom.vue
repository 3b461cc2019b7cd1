<script setup lang="ts">
import type { Schema } from '@/api/client'
import { usePractice } from '@/stores/practice'
import SeenView from './SeenView.vue'
import { useDrift } from './useDrift'

/** A view that turns or mirrors: where west is, which chart fits, which way to push. */
const props = defineProps<{ scene: Schema<'WayScene'> }>()
const practice = usePractice()
const make = (kind: 'answer' | 'ask', choice = 0) => practice.make({ drill: 'which_way', kind, choice })
const { centre } = useDrift(() => props.scene.view)
const R = 60
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <p><b>{{ scene.name }}</b> <span class="quiet">view {{ scene.stage }} of {{ scene.stages }}</span></p>
      <SeenView :view="scene.view" :centre="centre" is-still class="seen" />
    </div>
    <div class="hands">
      <div v-if="scene.ask === 'chart'" class="charts" role="group" aria-label="Charts">
        <button v-for="(stars, n) in scene.charts" :key="n" type="button" class="chart"
          :aria-label="scene.choices[n]" @click="make('answer', n)">
          <svg viewBox="-62 -62 124 124" aria-hidden="true"><circle :r="R" />
            <path v-for="([x, y], k) in stars" :key="k" :d="`M${x * R} ${-y * R}h.01`"
              :class="{ main: k === stars.length - 1 }" /></svg>
        </button>
      </div>
      <div v-else class="sides" role="group" aria-label="Answers">
        <v-btn v-for="(words, n) in scene.choices" :key="words" class="edged" @click="make('answer', n)">
          {{ words }}</v-btn>
      </div>
      <v-btn class="edged" @click="make('ask')">Show me how</v-btn>
    </div>
  </div>
</template>

<style scoped>
.charts, .sides { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.chart { background: var(--surface); border: 2px solid var(--edge); border-radius: 12px; padding: 6px; cursor: pointer; } .chart:hover { border-color: var(--jade); }
.chart svg { display: block; width: 100%; max-height: 150px; } .chart circle { fill: none; stroke: var(--ink-quiet); stroke-width: 1.5; }
.chart path { stroke: var(--ink); stroke-width: 4.5; stroke-linecap: round; } .chart .main { stroke-width: 10; }
</style>
