<script setup lang="ts">
import { STATIONS } from './stations'
</script>

<template>
  <nav class="rail" aria-label="Stations">
    <router-link v-for="(station, number) in STATIONS" :key="station.name" :to="`/${station.name}`" class="stop"
      :aria-keyshortcuts="String(number + 1)">
      <v-icon :icon="station.icon" size="24" />
      <span>{{ station.word }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.rail { display: flex; flex-direction: column; border-right: 1px solid var(--line); padding-top: 6px; overflow: hidden auto; }
.stop {
  display: grid; justify-items: center; align-content: center; gap: 3px; min-height: 64px; text-decoration: none; color: var(--ink-quiet);
  font-size: 13.5px; border-left: 4px solid transparent; padding-right: 4px;
}
.stop:hover { color: var(--ink); }
.router-link-active { color: var(--jade); font-weight: 700; border-left-color: var(--jade); }
.stop:focus-visible { outline-offset: -4px; }
@media (max-width: 699px) {
  .rail { flex-direction: row; border-right: 0; border-top: 1px solid var(--line); padding: 0; overflow-x: auto; overflow-y: hidden; }
  .stop { flex: 1 0 54px; min-width: 54px; min-height: 62px; font-size: 12px; border-left: 0; border-top: 4px solid transparent; padding: 0 2px 4px; }
  .router-link-active { border-top-color: var(--jade); }
}
</style>
