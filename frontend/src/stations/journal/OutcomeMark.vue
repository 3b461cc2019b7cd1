<script setup lang="ts">
import { OUTCOMES, type State } from './outcomes'

/** The shape of an outcome, with its word for those who hear it, unless that stands beside it. */
withDefaults(defineProps<{ state: State, size?: number, silent?: boolean }>(), { size: 20 })
</script>

<template>
  <svg :width="size" :height="size" viewBox="-8 -8 16 16" :role="silent ? undefined : 'img'"
    :aria-hidden="silent || undefined" :aria-label="silent ? undefined : OUTCOMES[state].word" :class="{ faint: state
      === 'open' }">
    <path v-if="OUTCOMES[state].fill" :d="OUTCOMES[state].fill" class="fill" /><path
      :d="OUTCOMES[state].outline" class="outline" /></svg>
</template>

<style scoped>
svg { flex: none; }
.outline { stroke: var(--jade); stroke-width: 1.6; fill: none; } .fill { fill: var(--jade); }
.faint .outline { stroke: var(--ink-quiet); stroke-dasharray: 2 2; }
</style>
