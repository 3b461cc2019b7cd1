<script setup lang="ts">
/** Words in a hatched tag: what stands beside it was not measured, or not now. The same everywhere. */
defineProps<{ words: string }>()
</script>

<template>
  <span class="honest">{{ words }}</span>
</template>

<style scoped>
.honest {
  display: inline-block; padding: 3px 8px 3px 20px; margin-right: 6px; border: 2px solid var(--brass); border-radius: 4px; color: var(--ink); font-weight: 700; font-size: 14px; line-height: 1.1; white-space: nowrap;
  background: repeating-linear-gradient(135deg, var(--brass) 0 3px, transparent 3px 7px) left / 14px 100% no-repeat, var(--surface);
}
</style>
