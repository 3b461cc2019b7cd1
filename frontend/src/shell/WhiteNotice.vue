<script setup lang="ts">
import PageDialog from './PageDialog.vue'
import { announced } from './whiteLight'

/** In the dark: something of the device's own would open, white; it opens when that is wanted. */
const close = () => { announced.value = null }
</script>

<template>
  <PageDialog :model-value="announced !== null" max-width="480" aria-label="White light ahead"
    @update:model-value="close">
    <v-card v-if="announced" class="white">
      <h1>White light ahead</h1>
      <p>{{ announced.what }} is not ours to redden and may fill the screen with white. Close your observing eye, turn
        the screen away, or do it by day.</p>
      <div class="acts">
        <v-btn autofocus color="primary" variant="flat" @click="close">Stay in the dark</v-btn>
        <v-btn @click="announced.open()">Open it all the same</v-btn>
      </div>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.white { padding: 24px; display: grid; gap: 16px; }
.acts { display: flex; gap: 12px; flex-wrap: wrap; }
</style>
