<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Schema } from '@/api/client'
import LevelDial from '@/drawings/dials/LevelDial.vue'
import { azimuthOf } from '@/drawings/dials/compass'
import { useFrames } from '@/shell/useFrames'
import { usePractice } from '@/stores/practice'

/** The base from above under its slow bubble; a foot is chosen, then moved. */
const props = defineProps<{ scene: Schema<'LevelScene'> }>()
const practice = usePractice()
const foot = ref(1)
/** How far it has come to rest; what is drawn goes on from what was told. */
const bubble = shallowRef<readonly [number, number]>([0, 0])
const isStill = ref(false)
const NEAR = 0.004
function draw () {
  const left = Math.exp(-Math.max(0, practice.atS() - (practice.run?.at_s ?? 0)) / props.scene.slow_s)
  const [[x, y], [toX, toY]] = [props.scene.bubble, props.scene.rests]
  bubble.value = [toX + left * (x - toX), toY + left * (y - toY)]
  isStill.value = Math.hypot(bubble.value[0] - toX, bubble.value[1] - toY) < NEAR
}
const { next } = useFrames(() => !isStill.value, draw)
watch(() => props.scene, () => {
  isStill.value = false
  next()
}, { immediate: true })
const drawn = computed(() => {
  const [right, up] = bubble.value
  return { divisions: Math.hypot(right, up) * props.scene.rings, azimuth_deg: azimuthOf(right, -up) }
})
const turn = (amount: number) => practice.make({ drill: 'level', kind: 'turn', foot: foot.value, amount })
const act = (kind: 'tap' | 'ask' | 'done') => practice.make({ drill: 'level', kind, foot: 1, amount: 0 })
const word = (n: number) => props.scene.step_words[n] ?? ''
</script>

<template>
  <div class="level-room" :aria-busy="!isStill">
    <div class="drawing">
      <LevelDial :bubble="drawn" :vial-divisions="scene.rings" :foot-azimuths="scene.foot_azimuths_deg"
        :next-foot="foot - 1" asked="" :by-bearing="false" :low-azimuth-deg="null" :can-point="false" />
    </div>
    <div class="hands">
      <v-btn-toggle v-model="foot" role="group" mandatory divided variant="outlined" aria-label="Which foot">
        <v-btn v-for="(_, n) in scene.foot_azimuths_deg" :key="n" :value="n + 1">Foot {{ n + 1 }}</v-btn>
      </v-btn-toggle>
      <div class="turns" role="group" aria-label="Raise it">
        <v-btn v-for="(amount, n) in scene.steps" :key="amount" @click="turn(amount)">↑ {{ word(n) }}</v-btn>
      </div>
      <div class="turns" role="group" aria-label="Lower it">
        <v-btn v-for="(amount, n) in scene.steps" :key="amount" @click="turn(-amount)">↓ {{ word(n) }}</v-btn>
      </div>
      <div class="turns">
        <v-btn @click="act('tap')">Tap the glass</v-btn>
        <v-btn @click="act('ask')">Ask the bench</v-btn>
      </div>
      <v-btn color="primary" variant="flat" size="large" @click="act('done')">It is level</v-btn>
    </div>
  </div>
</template>

<style scoped>
.level-room { display: grid; grid-template-columns: minmax(0, 1fr) minmax(280px, 380px); gap: 24px; align-items: center; }
.drawing { height: 100%; min-height: 0; }
.hands { display: grid; gap: 12px; }
.turns { display: flex; gap: 8px; } .turns .v-btn { flex: 1 1 0; min-width: 0; padding: 0 6px; border: 1px solid var(--edge); }
@media (max-width: 699px) {
  .level-room { display: flex; flex-direction: column; gap: 8px; }
  .drawing { flex: 1 1 0; width: 100%; } .hands { width: 100%; gap: 8px; }
}
</style>
