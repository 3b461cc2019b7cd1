<script setup lang="ts">
import type { Schema } from '@/api/client'

/** Where the one eye is. */
type Eye = Schema<'EyeView'>['eye']
defineProps<{ eye: Eye, finderName: string, isBorrowed: boolean }>()
const emit = defineEmits<{ look: [eye: Eye] }>()
const EYES: Record<Eye, string> = { along: 'Along the tube', finder: 'Finder', main: 'Main tube' }
</script>

<template>
  <v-btn-toggle :model-value="eye" role="group" mandatory divided variant="outlined" aria-label="Where the eye is"
    class="eyes" @update:model-value="emit('look', $event)">
    <v-btn v-for="(word, name) in EYES" :key="name" :value="name">{{ word }}</v-btn>
  </v-btn-toggle>
  <p v-if="isBorrowed" class="quiet small">No finder on this telescope in your kit: one is lent for the drill.</p>
  <p v-else class="quiet small name">{{ finderName }}</p>
</template>

<style scoped>
@media (max-width: 699px) { .name { display: none; } .eyes { width: 100%; } .eyes .v-btn { flex: 1; padding: 0 4px; font-size: 14px; } }
</style>
