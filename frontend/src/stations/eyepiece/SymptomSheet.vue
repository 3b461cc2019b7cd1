<script setup lang="ts">
import { ref } from 'vue'
import SideSheet from '@/shell/SideSheet.vue'
import SymptomFinder from '@/shell/SymptomFinder.vue'

/** Stuck at the eyepiece: the symptom finder beside the target. */
const isOpen = defineModel<boolean>({ required: true })
const path = ref<string[]>([])
</script>

<template>
  <SideSheet v-model="isOpen" title="What is wrong?">
    <SymptomFinder v-model="path" @leave="isOpen = false" />
  </SideSheet>
</template>
