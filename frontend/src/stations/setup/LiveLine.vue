<script setup lang="ts">
import HonestMark from '@/shell/HonestMark.vue'
import type { Shown } from './instrument'

/** What the live instrument says of itself, thirty times a second: in a box that keeps its size, whatever that is. */
defineProps<{ shown: Shown | null, isLost: boolean }>()
</script>

<template>
  <p class="live small" :class="isLost ? 'silent' : shown?.state" role="status"
    :tabindex="shown?.state === 'rubbish' ? 0 : undefined">
    <template v-if="isLost"><b>Nothing comes from the application.</b> It is asked again.</template>
    <template v-else-if="shown"><HonestMark v-if="shown.is_simulated" :words="`simulated ${shown.instrument}`" />
      <b>{{ shown.words }}</b> Reading <span class="figures">{{ shown.seq }}</span>, restless by
      {{ shown.noise_arcmin.toFixed(1) }}′<template v-if="shown.missed">, {{ shown.missed }} never
      came</template>.</template>
    <template v-else>Waiting for the first reading …</template>
  </p>
</template>

<style scoped>
.live { border-left: 5px solid var(--line); padding-left: 10px; flex: none; line-height: 24px; block-size: 48px; overflow-y: auto; }
@media (max-width: 699px) { .live { block-size: 72px; } }
.steady { border-left-color: var(--jade); }
.jumped, .rubbish, .silent { border-left-color: var(--brass); }
</style>
