<script setup lang="ts">
import { KIND_PATHS } from './kindPaths'

/** One kind of mount, finder or telescope, drawn; nothing for a kind without a drawing. */
defineProps<{ family: 'mount' | 'finder' | 'telescope', kind: string }>()
</script>

<template>
  <svg v-if="KIND_PATHS[family]?.[kind]" viewBox="0 -2 96 76" class="kind-picture" aria-hidden="true"><path
    :d="KIND_PATHS[family]?.[kind]" /></svg>
</template>

<style scoped>
.kind-picture { width: 72px; height: 54px; stroke: var(--ink); stroke-width: 2.5; fill: none; stroke-linejoin: round; stroke-linecap: round; }
</style>
