<script setup lang="ts">
defineProps<{ title: string, words: string }>()
</script>

<template>
  <section class="not-yet">
    <svg viewBox="0 0 120 60" width="180" aria-hidden="true"><slot /></svg>
    <h1>{{ title }}</h1>
    <p>{{ words }}</p>
    <p class="quiet">This station is not built yet.</p>
  </section>
</template>

<style scoped>
.not-yet { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.not-yet p { max-width: 46ch; }
svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2; stroke-linecap: round; }
</style>
