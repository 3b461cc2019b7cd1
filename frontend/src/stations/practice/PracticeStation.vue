<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { lazily } from '@/shell/lazily'
import DrillWall from './DrillWall.vue'
import SymptomRoom from './SymptomRoom.vue'

const DrillRoom = lazily(() => import('./DrillRoom.vue'))
const route = useRoute()
const router = useRouter()
const runId = computed(() => Number(route.query.run) || null)
const isStuck = computed(() => route.query.wrong !== undefined)
const enter = (run: number | null) => router.push({ path: '/practice', query: run === null ? {} : { run: String(run) } })
</script>

<template>
  <DrillRoom v-if="runId" :id="runId" :key="runId" @leave="enter(null)" @enter="enter" />
  <SymptomRoom v-else-if="isStuck" @leave="enter(null)" />
  <DrillWall v-else @enter="enter" />
</template>
