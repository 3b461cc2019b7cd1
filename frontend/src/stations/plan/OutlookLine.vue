<script setup lang="ts">
import type { Schema } from '@/api/client'
import HonestMark from '@/shell/HonestMark.vue'

/** Go, wait or stay in, in one line. */
defineProps<{ outlook: Schema<'Outlook'> }>()
const TITLES = { go: 'Go', wait: 'Wait', 'stay in': 'Stay in', 'not known': 'Nobody knows' } as const
</script>

<template>
  <p><HonestMark v-if="outlook.is_simulated" words="simulated weather" /><b>{{ TITLES[outlook.word] }}.</b>
    {{ outlook.words }} <slot /></p>
</template>
