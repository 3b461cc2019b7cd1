<script setup lang="ts">
import type { Schema } from '@/api/client'

/** Where the one eye is. */
type Eye = Schema<'EyeView'>['eye']
defineProps<{ eye: Eye }>()
const emit = defineEmits<{ look: [eye: Eye] }>()
const EYES: Record<Eye, string> = { along: 'Along the tube', finder: 'Finder', main: 'Main tube' }
</script>

<template>
  <v-btn-toggle :model-value="eye" role="group" mandatory divided variant="outlined" aria-label="Where the eye is"
    class="eyes" @update:model-value="emit('look', $event)">
    <v-btn v-for="(word, name) in EYES" :key="name" :value="name">{{ word }}</v-btn>
  </v-btn-toggle>
</template>

<style scoped>
@media (max-width: 699px) { .eyes { width: 100%; } .eyes .v-btn { flex: 1; padding: 0 4px; font-size: 14px; } }
</style>
