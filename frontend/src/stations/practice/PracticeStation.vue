<script setup lang="ts">
import NotYet from '@/shell/NotYet.vue'
</script>

<template>
  <NotYet
    title="Practice"
    words="Here you will rehearse by day, with a simulated finder, sky and bubble that have honest faults."
  >
    <rect x="22" y="20" width="76" height="20" rx="10" /><circle cx="70" cy="30" r="7" />
  </NotYet>
</template>
