<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import SymptomFinder from '@/shell/SymptomFinder.vue'

/** The symptom finder as a page of its own: where one stands is in its address. */
const emit = defineEmits<{ leave: [] }>()
const route = useRoute()
const router = useRouter()
const path = computed({
  get: () => String(route.query.wrong ?? '').split('.').filter(Boolean),
  set: keys => void router.push({ path: '/practice', query: { wrong: keys.join('.') } }),
})
</script>

<template>
  <section class="room scroll-y" tabindex="0" role="region" aria-label="What is wrong?">
    <header class="head">
      <v-btn variant="text" @click="emit('leave')">All drills</v-btn>
      <h1>What is wrong?</h1>
    </header>
    <SymptomFinder v-model="path" class="finder" />
  </section>
</template>

<style scoped>
.room { height: 100%; padding: 8px 20px 16px; display: flex; flex-direction: column; gap: 10px; }
.head { display: flex; align-items: center; gap: 12px; } .finder { max-width: 900px; }
@media (max-width: 699px) { .room { padding: 4px 12px 10px; } }
</style>
