<script setup lang="ts">
defineProps<{ value: string, unit: string, label: string, about?: boolean }>()
defineEmits<{ open: [] }>()
</script>

<template>
  <button type="button" class="figure plain-button"
    :aria-label="`${about ? 'about ' : ''}${value}${unit} ${label}. How is this worked out?`"
    @click="$emit('open')">
    <span class="value figures"><span v-if="about" class="about">about </span>{{ value }}<span
      class="unit">{{ unit }}</span></span>{{ ' ' }}
    <span class="label">{{ label }}</span>
  </button>
</template>

<style scoped>
.figure { display: grid; min-height: 48px; align-content: end; }
.value { font-size: 23px; font-weight: 700; line-height: 1.1; white-space: nowrap; }
.about { font-family: var(--text); font-size: 14px; font-weight: 400; }
.label { font-size: 14px; color: var(--ink-quiet); text-decoration: underline dotted; text-underline-offset: 4px; }
.figure:hover .label { color: var(--jade); }
</style>
