<script setup lang="ts">
import { useBench } from '@/stores/bench'

/** That a safe landmark has to be chosen first, and the way there. */
const store = useBench()
</script>

<template>
  <p class="need">First choose a safe landmark. <button type="button" class="link-button"
    @click="store.goTo('sun')">Go to the Sun guard</button></p>
</template>

<style scoped>
.need { border-left: 5px solid var(--brass); padding-left: 12px; }
</style>
