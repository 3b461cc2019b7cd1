<script setup lang="ts">
import type { Schema } from '@/api/client'
import { usePractice } from '@/stores/practice'
import SeenView from './SeenView.vue'
import { useDrift } from './useDrift'

/** A view that turns or mirrors: where west is, which chart fits, which way to push. */
const props = defineProps<{ scene: Schema<'WayScene'> }>()
const practice = usePractice()
const make = (kind: 'answer' | 'ask', choice = 0) => practice.make({ drill: 'which_way', kind, choice })
const { centre } = useDrift(() => props.scene.view, () => props.scene.again_s ?? null)
const R = 60
/** Where a side or a push stands about the middle: row / column. */
const AREAS: Record<string, string> = {
  'upper left': '1/1', top: '1/2', up: '1/2', 'upper right': '1/3', left: '2/1', right: '2/3',
  'lower left': '3/1', bottom: '3/2', down: '3/2', 'lower right': '3/3',
}
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <p><b>{{ scene.name }}</b> <span class="quiet">view {{ scene.stage }} of {{ scene.stages }}<template
        v-if="scene.hurried > 1">, the sky {{ scene.hurried }} times as fast</template></span></p>
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
        <v-btn v-for="(words, n) in scene.choices" :key="words" class="edged" :style="{ gridArea: AREAS[words] }"
          @click="make('answer', n)">{{ words }}</v-btn>
      </div>
      <v-btn class="edged" @click="make('ask')">Show me how</v-btn>
    </div>
  </div>
</template>

<style scoped>
.charts, .sides { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 10px; } .sides { grid-template-columns: repeat(3, minmax(0, 1fr)); }
.sides .v-btn { padding: 0 4px; }
.chart { background: var(--surface); border: 2px solid var(--edge); border-radius: 12px; padding: 6px; cursor: pointer; } .chart:hover { border-color: var(--jade); }
.chart svg { display: block; width: 100%; max-height: 150px; } .chart circle { fill: none; stroke: var(--ink-quiet); stroke-width: 1.5; }
.chart path { stroke: var(--ink); stroke-width: 4.5; stroke-linecap: round; } .chart .main { stroke-width: 10; }
</style>
