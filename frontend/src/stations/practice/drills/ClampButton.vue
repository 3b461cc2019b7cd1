<script setup lang="ts">
/** The clamps, both at once: what they are, and what a press does. */
defineProps<{ isClamped: boolean }>()
const emit = defineEmits<{ turn: [kind: 'clamp' | 'unclamp'] }>()
</script>

<template>
  <v-btn class="edged" @click="emit('turn', isClamped ? 'unclamp' : 'clamp')">
    {{ isClamped ? 'Clamps closed: open them' : 'Clamps open: close them' }}</v-btn>
</template>
