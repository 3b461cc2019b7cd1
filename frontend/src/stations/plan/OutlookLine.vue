<script setup lang="ts">
import type { Schema } from '@/api/client'
import HonestMark from '@/shell/HonestMark.vue'

/** Go, wait or stay in, in one line; its place is kept while the weather is asked for: nothing moves when it comes. */
defineProps<{ outlook: Schema<'Outlook'> | null }>()
const TITLES = { go: 'Go', wait: 'Wait', 'stay in': 'Stay in', 'not known': 'Nobody knows' } as const
</script>

<template>
  <p class="outlook"><template v-if="outlook"><HonestMark v-if="outlook.is_simulated" words="simulated weather" /><b>{{
    TITLES[outlook.word] }}.</b> {{ outlook.words }} <slot /></template></p>
</template>

<style scoped>
.outlook { min-height: 2lh; }
.outlook > :first-child { margin-right: 8px; }
@media (max-width: 699px) { .outlook { min-height: 4lh; } }
</style>
