<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Schema } from '@/api/client'
import { useFrames } from '@/shell/useFrames'
import { usePractice } from '@/stores/practice'
import SeenView from './SeenView.vue'
import PushPad from './PushPad.vue'
import ScrewHands from './ScrewHands.vue'

/** One eye: main tube, finder or along the tube; the hands push, clamp and turn screws meanwhile. */
const props = defineProps<{ scene: Schema<'FinderScene'> }>()
const practice = usePractice()
type Eye = Schema<'EyeView'>['eye']
const EYES: Record<Eye, string> = { along: 'Along the tube', main: 'Main tube', finder: 'Finder' }
const make = (hand: Partial<Schema<'FinderMove'>> & { kind: Schema<'FinderMove'>['kind'] }) =>
  practice.make({ drill: 'finder', eye: props.scene.view.eye, landmark: 0, right: 0, up: 0, screw: 0, turns: 0, ...hand })
const push = (right: number, up: number) => make({ kind: 'push', right, up })

/** A star goes on between two answers. */
const sinceS = ref(0)
const minutes = shallowRef(0)
const drifts = computed(() => Math.hypot(...props.scene.view.drift) > 0)
const { next } = useFrames(() => drifts.value, () => { minutes.value = Math.max(0, practice.atS() - sinceS.value) / 60 })
watch(() => props.scene, () => {
  sinceS.value = practice.run?.at_s ?? 0
  next()
}, { immediate: true })
const centre = computed(() => [0, 1].map(n => (props.scene.view.centre[n] ?? 0) - (props.scene.view.drift[n] ?? 0) * minutes.value))
</script>

<template>
  <div class="finder-room">
    <div class="view">
      <v-btn-toggle :model-value="scene.view.eye" role="group" mandatory divided variant="outlined"
        aria-label="Where the eye is" class="eyes" @update:model-value="make({ kind: 'look', eye: $event })">
        <v-btn v-for="(word, name) in EYES" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <SeenView :view="scene.view" :centre="centre" class="seen" @push="push" />
    </div>
    <div class="hands">
      <div v-if="scene.marks.length" class="marks" role="group" aria-label="What to align on">
        <button v-for="(words, n) in scene.mark_words" :key="words" type="button"
          :class="['mark', { on: n === scene.chosen }]"
          :aria-pressed="n === scene.chosen" @click="make({ kind: 'choose', landmark: n })">{{ words }}</button>
      </div>
      <v-btn v-if="scene.has_clamps" class="edged" @click="make({ kind: scene.is_clamped ? 'unclamp' : 'clamp' })">
        {{ scene.is_clamped ? 'Clamps closed: open them' : 'Clamps open: close them' }}</v-btn>
      <PushPad :nudges="scene.view.nudges_arcmin" @push="push" />
      <ScrewHands :hours="scene.screw_hours" :turns="scene.turns" :turn-words="scene.turn_words"
        :name="scene.finder_name" @turn="(screw, turns) => make({ kind: 'screw', screw, turns })"
        @snug="make({ kind: 'snug' })" @middle="make({ kind: 'middle' })" />
      <div class="row">
        <v-btn class="edged" @click="make({ kind: 'ask' })">Ask the bench</v-btn>
        <v-btn color="primary" variant="flat" @click="make({ kind: 'done' })">It is aligned</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.finder-room { display: grid; grid-template-columns: minmax(0, 1fr) minmax(300px, 400px); gap: 20px; }
.view { display: flex; flex-direction: column; gap: 8px; min-height: 0; align-items: center; }
.seen { flex: 1 1 0; min-height: 0; width: 100%; }
.hands { display: grid; gap: 10px; align-content: center; min-height: 0; overflow-y: auto; }
.marks { display: grid; gap: 4px; grid-template-columns: 1fr 1fr; }
.mark { font: inherit; font-size: 14px; line-height: 1.25; text-align: start; color: var(--ink); background: var(--surface); border: 2px solid var(--edge); border-radius: 8px; padding: 4px 10px; min-height: 48px; cursor: pointer; }
.mark.on { border-color: var(--jade); box-shadow: inset 5px 0 0 var(--jade); padding-left: 14px; }
.edged { border: 1px solid var(--edge); }
.row { display: flex; gap: 8px; } .row .v-btn { flex: 1 1 0; }
@media (max-width: 699px) {
  .finder-room { display: flex; flex-direction: column; gap: 8px; overflow-y: auto; } .hands, .view { flex: none; overflow: visible; }
  .eyes { width: 100%; } .eyes .v-btn { flex: 1; padding: 0 4px; font-size: 14px; } .seen { flex: none; height: min(70vw, 40dvh); }
}
</style>
