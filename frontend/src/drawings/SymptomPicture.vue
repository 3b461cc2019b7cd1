<script setup lang="ts">
import type { Schema } from '@/api/client'
import { SYMPTOM_PATHS } from './symptomPaths'

/** What a symptom, a question or a cause is about, drawn with a few lines. */
defineProps<{ picture: Schema<'Cause'>['picture'] }>()
</script>

<template>
  <svg viewBox="-50 -50 100 100" class="symptom-picture" aria-hidden="true">
    <path v-for="(part, n) in SYMPTOM_PATHS[picture]" :key="n" :d="part.d" :class="part.as" />
  </svg>
</template>

<style scoped>
.symptom-picture { display: block; fill: none; stroke: var(--ink); stroke-width: 3; stroke-linecap: round; stroke-linejoin: round; aspect-ratio: 1; }
.line { stroke: var(--ink); } .quiet { stroke: var(--ink-quiet); stroke-width: 2.5; }
.black { fill: var(--field); stroke: var(--ink); } .full { fill: var(--ink); } .wash { fill: var(--jade-wash); stroke: var(--ink); } .mark { stroke: var(--jade); stroke-width: 5; }
.dash { stroke: var(--ink-quiet); stroke-dasharray: 5 6; }
</style>
