<script setup lang="ts">
import { computed, ref } from 'vue'
import { mdiArrowDown, mdiArrowLeft, mdiArrowRight, mdiArrowUp } from '@mdi/js'

/** Hands on the tube: a little or a lot, each way. */
const props = defineProps<{ nudges: readonly number[] }>()
const emit = defineEmits<{ push: [right: number, up: number] }>()
const isLarge = ref(false)
const size = computed(() => props.nudges[isLarge.value ? 1 : 0] ?? 0)
const WAYS = [
  ['left', mdiArrowLeft, -1, 0], ['up', mdiArrowUp, 0, 1], ['down', mdiArrowDown, 0, -1], ['right', mdiArrowRight, 1, 0],
] as const
</script>

<template>
  <div class="pad" role="group" aria-label="Push the tube">
    <span class="small">push</span>
    <v-btn v-for="[word, icon, right, up] in WAYS" :key="word" :icon="icon" variant="text" class="way"
      :aria-label="`Push the tube ${word}`" @click="emit('push', right * size, up * size)" />
    <v-btn-toggle v-model="isLarge" role="group" mandatory divided variant="outlined" aria-label="How far">
      <v-btn :value="false">a little</v-btn><v-btn :value="true">a lot</v-btn>
    </v-btn-toggle>
  </div>
</template>

<style scoped>
.pad > span { flex: 0 0 34px; } .pad { display: flex; align-items: center; gap: 6px; }
.way { border: 1px solid var(--edge); border-radius: 8px; flex: 0 1 48px; width: 48px; min-width: 0; }
.pad .v-btn-toggle { flex: 1 0 128px; } .pad .v-btn-toggle .v-btn { flex: 1; padding: 0 4px; min-width: 0; font-size: 15px; }
@media (max-width: 699px) { .pad > span { display: none; } }
</style>
