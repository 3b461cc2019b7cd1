<script setup lang="ts">
import PageDialog from './PageDialog.vue'
import { EYEPIECE_KEYS, KEYS } from './keys'
const isOpen = defineModel<boolean>({ required: true })
const named = (key: string | undefined) => key === ' ' ? 'Space' : key
const shown = (keys: readonly string[]) => keys.length > 2 ? `${keys[0]}–${keys.at(-1)}` : keys.map(named).join(' ')
</script>

<template>
  <PageDialog v-model="isOpen" max-width="520" scrollable aria-label="List of keys">
    <v-card class="keys">
      <h1>Keys</h1>
      <dl>
        <template v-for="entry in KEYS" :key="entry.words">
          <dt><kbd class="figures">{{ shown(entry.keys) }}</kbd></dt>
          <dd>{{ entry.words }}</dd>
        </template>
      </dl>
      <h2>At the eyepiece</h2>
      <dl>
        <template v-for="entry in EYEPIECE_KEYS" :key="entry.words">
          <dt><kbd class="figures">{{ shown(entry.keys) }}</kbd></dt>
          <dd>{{ entry.words }}</dd>
        </template>
      </dl>
      <p class="quiet small">No key fires while you type or while a sheet is open.</p>
      <v-btn color="primary" variant="flat" @click="isOpen = false">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.keys { padding: 24px; display: grid; gap: 16px; }
dl { display: grid; grid-template-columns: 84px 1fr; gap: 10px; margin: 0; align-items: center; }
dd { margin: 0; }
kbd { border: 1px solid var(--line); border-radius: 6px; padding: 4px 10px; }
</style>
