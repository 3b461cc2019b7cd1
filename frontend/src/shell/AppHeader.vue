<script setup lang="ts">
import { computed, ref } from 'vue'
import HonestMark from './HonestMark.vue'
import { lazily, onceOpen } from './lazily'
import { minutesSeconds } from './time'
import { useDriftTimer } from '@/stores/driftTimer'
import { useEvening } from '@/stores/evening'
import { eveningWords } from './eveningWords'
import { REGIME_WORDS, useRegime } from './regime'

const LightMenu = lazily(() => import('./LightMenu.vue'))
defineEmits<{ evening: [], keys: [] }>()
const store = useEvening()
const regime = useRegime()
const drift = useDriftTimer()
const words = computed(() => eveningWords(store.evening))
const telescope = computed(() => store.evening?.telescope)
const light = ref<HTMLElement | null>(null)
const lightIsOpen = ref(false)
const lightIsWanted = onceOpen(() => lightIsOpen.value)
</script>

<template>
  <header class="header" :class="{ short: $route.name === 'eyepiece' }">
    <span class="mark">Jade Perch</span>
    <button type="button" class="chip wide" @click="$emit('evening')">
      <template v-if="words"><b>{{ words.day }}</b><span class="rest"> · {{ words.rest }}</span></template>
      <template v-else>{{ store.evening ? 'Choose your place' : 'The evening' }}</template>
    </button>
    <button v-if="telescope" type="button" class="chip telescope" @click="$emit('evening')">
      <b>{{ telescope.name }}</b><span class="rest"> · {{ telescope.focal_length_mm }} mm
        f/{{ (telescope.focal_length_mm / telescope.aperture_mm).toFixed(1) }}</span>
    </button>
    <HonestMark v-if="store.clockWords" :words="store.clockWords" class="clock" />
    <span class="space" />
    <button v-if="drift.isRunning" type="button" class="chip figures" 
      aria-description="Stops the drift timer" aria-keyshortcuts="Space"
      @click="drift.toggle()">
      drift {{ minutesSeconds(drift.elapsedS) }}
    </button>
    <button ref="light" type="button" class="chip" aria-haspopup="dialog" :aria-expanded="lightIsOpen"
      @click="lightIsOpen = !lightIsOpen">{{ REGIME_WORDS[regime.regime] }}</button>
    <LightMenu v-if="lightIsWanted" v-model="lightIsOpen" :activator="light" />
    <button type="button" class="chip" aria-label="List of keys" @click="$emit('keys')">?</button>
  </header>
</template>

<style scoped>
.header { grid-area: head; display: flex; align-items: center; gap: 12px; padding: 0 18px; border-bottom: 1px solid var(--line); min-width: 0; }
.mark { color: var(--jade); font-weight: 800; font-size: 19px; white-space: nowrap; }
.chip {
  font: inherit; font-size: 15px; color: inherit; background: var(--surface); border: 1px solid var(--edge); border-radius: 24px;
  min-height: max(40px, var(--least)); padding: 0 16px; cursor: pointer; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; min-width: max(44px, var(--least));
}
.chip:hover { border-color: var(--jade); }
.chip:not(.wide, .telescope) { flex-shrink: 0; }
.telescope { flex-shrink: 0; }
.space { flex: 1; }
.clock { flex-shrink: 0; }
@media (max-width: 699px) {
  .header { flex-wrap: wrap; padding: 6px 8px; gap: 6px; }
  .mark { font-size: 16px; order: -2; }
  .chip { min-height: 48px; padding: 0 11px; font-size: 14px; }
  .header .clock { font-size: 12px; padding: 3px 5px 3px 16px; margin: 0; }
  .wide { order: 1; flex: 1 1 55%; }
  .telescope { order: 2; flex: 0 1 38%; }
  .telescope .rest { display: none; }
  .short .wide, .short .telescope, .short [aria-label='List of keys'] { display: none; }
}
</style>
