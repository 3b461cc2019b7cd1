<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { minutesSeconds } from '@/shell/time'
import { usePractice } from '@/stores/practice'
import ClampButton from './ClampButton.vue'
import EyeToggle from './EyeToggle.vue'
import KnobPad from './KnobPad.vue'
import PushPad from './PushPad.vue'
import SeenView from './SeenView.vue'
import { useDrift } from './useDrift'

/** A tube that points elsewhere: brought to a bright star by eye, finder and hands. */
const props = defineProps<{ scene: Schema<'PointingScene'> }>()
const practice = usePractice()
const make = (hand: Partial<Schema<'PointingMove'>> & { kind: Schema<'PointingMove'>['kind'] }) =>
  practice.make({ drill: 'pointing', eye: props.scene.view.eye, right: 0, up: 0, axis: 0, ...hand })
const push = (right: number, up: number) => make({ kind: 'push', right, up })
const { centre, nowS } = useDrift(() => props.scene.view)
const left = computed(() => props.scene.limit_s === null || props.scene.limit_s === undefined ? null : Math.max(0, props.scene.limit_s - nowS.value))
</script>

<template>
  <div class="drill-room">
    <div class="view">
      <EyeToggle :eye="scene.view.eye" :finder-name="scene.finder_name" :is-borrowed="scene.is_borrowed"
        @look="make({ kind: 'look', eye: $event })" />
      <SeenView :view="scene.view" :centre="centre" class="seen" @push="push" />
    </div>
    <div class="hands">
      <p v-if="left !== null" class="figures left" role="timer">{{ minutesSeconds(left) }}</p>
      <ClampButton v-if="scene.handling.has_clamps" :is-clamped="scene.is_clamped" @turn="make({ kind: $event })" />
      <PushPad :nudges="scene.view.nudges_arcmin" @push="push" />
      <KnobPad v-if="scene.handling.has_knobs" :handling="scene.handling" :amounts="scene.knob_arcmin"
        @turn="(axis, right) => make({ kind: 'knob', axis, right })" />
      <div class="row">
        <v-btn class="edged" @click="make({ kind: 'ask' })">Ask the mentor</v-btn>
        <v-btn color="primary" variant="flat" @click="make({ kind: 'done' })">It is in</v-btn>
      </div>
    </div>
  </div>
</template>
