<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Schema } from '@/api/client'
import { minutesSeconds } from '@/shell/time'
import { usePractice } from '@/stores/practice'
import KnobPad from './KnobPad.vue'
import SeenView from './SeenView.vue'
import { useDrift } from './useDrift'

/** A drifting target, kept in the field by its two arcs while the power grows. */
const props = defineProps<{ scene: Schema<'KeepScene'> }>()
const practice = usePractice()
const turn = (axis: 0 | 1, amount: number) => practice.make({ drill: 'keep', kind: 'turn', axis, amount })
const { centre, nowS } = useDrift(() => props.scene.view)
// the next power, and the end, come by the clock
watch(() => nowS.value >= Math.min(props.scene.next_at_s, props.scene.whole_s), due => {
  if (due) practice.make({ drill: 'keep', kind: 'wait', axis: 0, amount: 0 })
})
/** A push along the picture is told axis by axis, as its two arcs have it. */
function push (right: number, up: number) {
  const along = props.scene.handling.arcs.map(([x, y]) => x * right + y * up)
  const axis = Math.abs(along[0] ?? 0) >= Math.abs(along[1] ?? 0) ? 0 : 1
  turn(axis, along[axis] ?? 0)
}
const left = computed(() => Math.max(0, props.scene.whole_s - nowS.value))
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <p class="stage"><b class="figures">{{ scene.magnification.toFixed(0) }}×</b>
        <span class="quiet">power {{ scene.stage }} of {{ scene.stages }}</span></p>
      <SeenView :view="scene.view" :centre="centre" class="seen" @push="push" />
    </div>
    <div class="hands">
      <p class="time"><span class="figures left" role="timer">{{ minutesSeconds(left) }}</span>
        <span class="quiet small">outside so far: {{ scene.out_s.toFixed(0) }} s</span></p>
      <KnobPad :handling="scene.handling" :amounts="scene.view.nudges_arcmin" @turn="turn" />
    </div>
  </div>
</template>

<style scoped>
.time { display: flex; gap: 14px; align-items: baseline; } .stage { display: flex; gap: 12px; align-items: baseline; } .stage b { font-size: 34px; }
@media (max-width: 699px) { .stage b { font-size: 22px; } }
</style>
