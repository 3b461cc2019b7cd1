<script setup lang="ts">
import { REGIME_WORDS, useRegime } from './regime'

/** The light regime and the own brightness, opened from the header. */
defineProps<{ activator: HTMLElement | null }>()
const isOpen = defineModel<boolean>({ required: true })
const regime = useRegime()
</script>

<template>
  <v-menu v-model="isOpen" :activator="activator ?? undefined" :open-on-click="false" :close-on-content-click="false"
    location="bottom end" role="region" aria-label="Light">
    <div class="regimes">
      <h2 id="light-words">Light</h2>
      <v-btn-toggle v-model="regime.regime" role="group" mandatory divided variant="outlined"
        aria-labelledby="light-words">
        <v-btn v-for="(word, name) in REGIME_WORDS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <v-slider v-model="regime.brightnessPercent" :min="15" :max="100" :step="5" label="Brightness"
        aria-label="Brightness" hide-details />
      <p class="quiet small">Key n: next light regime.</p>
    </div>
  </v-menu>
</template>

<style scoped>
.regimes { background: var(--surface); border: 1px solid var(--line); border-radius: 12px; padding: 16px; display: grid; gap: 12px; width: 340px; max-width: 96vw; }
</style>
