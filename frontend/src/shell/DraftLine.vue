<script setup lang="ts">
/** Says that a form holds words that are not stored yet, and throws them away when asked. */
defineProps<{ isDraft: boolean }>()
defineEmits<{ startOver: [] }>()
</script>

<template>
  <p v-if="isDraft" class="draft small">
    Not saved yet; kept until you do.
    <button type="button" class="link-button over" @click="$emit('startOver')">Start over</button>
  </p>
</template>

<style scoped>
.draft { border-left: 5px solid var(--line); padding-left: 10px; display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin: 0; }
.over { padding: 0; min-height: max(32px, var(--least)); }
@media (max-width: 699px) { .over { min-height: 48px; } }
</style>
