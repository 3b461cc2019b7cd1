<script setup lang="ts">
import { computed } from 'vue'
import type { Refusal } from '@/api/client'

/** What was refused, except for what the named fields already show beside themselves. */
const props = defineProps<{ refusal: Refusal | null, beside?: readonly string[] }>()
const words = computed(() => props.refusal?.besides(props.beside ?? []) ?? '')
</script>

<template>
  <p v-if="words" role="alert" class="small">{{ words }}</p>
</template>
