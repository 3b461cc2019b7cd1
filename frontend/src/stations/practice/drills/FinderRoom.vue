<script setup lang="ts">
import type { Schema } from '@/api/client'
import { usePractice } from '@/stores/practice'
import ClampButton from './ClampButton.vue'
import EyeToggle from './EyeToggle.vue'
import SeenView from './SeenView.vue'
import PushPad from './PushPad.vue'
import ScrewHands from './ScrewHands.vue'
import { useDrift } from './useDrift'

/** One eye: main tube, finder or along the tube; the hands push, clamp and turn screws meanwhile. */
const props = defineProps<{ scene: Schema<'FinderScene'> }>()
const practice = usePractice()
const make = (hand: Partial<Schema<'FinderMove'>> & { kind: Schema<'FinderMove'>['kind'] }) =>
  practice.make({ drill: 'finder', eye: props.scene.view.eye, landmark: 0, right: 0, up: 0, screw: 0, turns: 0, ...hand })
const push = (right: number, up: number) => make({ kind: 'push', right, up })

const { centre } = useDrift(() => props.scene.view)
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <EyeToggle :eye="scene.view.eye" :finder-name="scene.finder_name" :is-borrowed="scene.is_borrowed"
        @look="make({ kind: 'look', eye: $event })" />
      <SeenView :view="scene.view" :centre="centre" class="seen" @push="push" />
    </div>
    <div class="hands">
      <div v-if="scene.marks.length" class="marks" role="group" aria-label="What to align on">
        <button v-for="(words, n) in scene.mark_words" :key="words" type="button"
          :class="['mark', { on: n === scene.chosen }]"
          :aria-pressed="n === scene.chosen" @click="make({ kind: 'choose', landmark: n })">{{ words }}</button>
      </div>
      <ClampButton v-if="scene.has_clamps" :is-clamped="scene.is_clamped" @turn="make({ kind: $event })" />
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
.marks { display: grid; gap: 4px; grid-template-columns: 1fr 1fr; }
.mark { font: inherit; font-size: 14px; line-height: 1.25; text-align: start; color: var(--ink); background: var(--surface); border: 2px solid var(--edge); border-radius: 8px; padding: 4px 10px; min-height: 48px; cursor: pointer; }
.mark.on { border-color: var(--jade); box-shadow: inset 5px 0 0 var(--jade); padding-left: 14px; }
</style>
