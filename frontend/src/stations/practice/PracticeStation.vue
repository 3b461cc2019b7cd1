<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { lazily } from '@/shell/lazily'
import DrillWall from './DrillWall.vue'

const DrillRoom = lazily(() => import('./DrillRoom.vue'))
const route = useRoute()
const router = useRouter()
const runId = computed(() => Number(route.query.run) || null)
const enter = (run: number | null) => router.push({ path: '/practice', query: run === null ? {} : { run: String(run) } })
</script>

<template>
  <DrillRoom v-if="runId" :id="runId" :key="runId" @leave="enter(null)" @enter="enter" />
  <DrillWall v-else @enter="enter" />
</template>
