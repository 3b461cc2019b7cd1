<script setup lang="ts">
import { useSums } from '@/shell/sums'
import { minutesSeconds } from '@/shell/time'
import { useStopKeeper } from '@/shell/stopKeeper'
import { useDriftTimer } from '@/stores/driftTimer'

/** A drift timed by hand, from the middle or from edge to edge; it may correct the eyepiece's field in the kit. */
const drift = useDriftTimer()
const keeper = useStopKeeper()
const sums = useSums()
</script>

<template>
  <div class="drift small">
    <template v-if="drift.isRunning">
      <p class="figures">drift {{ minutesSeconds(drift.elapsedS) }}: press when it leaves</p>
      <v-btn size="small" @click="drift.toggle(true)">It began in the middle <kbd>d</kbd></v-btn>
      <v-btn size="small" @click="drift.toggle(false)">It began at the edge</v-btn>
    </template>
    <button v-else type="button" class="link-button" @click="drift.toggle()">Time how long it really takes (d)</button>
    <p v-if="drift.result">
      On {{ drift.result.on }} a field of
      <button type="button" class="link-button inline"
        @click="sums.open = drift.result.sum">{{ drift.result.true_field_deg.toFixed(2) }}°</button>.
      <button v-if="drift.result.eyepiece && !keeper.isKept(drift.result)" type="button" class="link-button inline"
        @click="keeper.keep(drift.result)">Keep it with {{ drift.result.eyepiece.name }}</button>
      <template v-else-if="drift.result.eyepiece">Kept with {{ drift.result.eyepiece.name }}.</template>
    </p>
    <p v-if="keeper.refusal.value" role="alert">{{ keeper.refusal.value.words }}</p>
  </div>
</template>

<style scoped>
.drift { display: grid; gap: 6px; justify-items: start; }
.inline { padding: 0; min-height: 0; }
.drift :deep(.v-btn) { border: 1px solid var(--edge); }
kbd { font-family: var(--figures); margin-left: 6px; }
@media (max-width: 699px) { kbd { display: none; } }
</style>
