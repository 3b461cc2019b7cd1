<script setup lang="ts">
import NotYet from '@/shell/NotYet.vue'
</script>

<template>
  <NotYet
    title="Set-up"
    words="Here you will level, balance, align the finder, find north and focus, step by step, with the Sun watched."
  >
    <path d="M20 52 60 14l40 38M60 14v38M48 14h24" />
  </NotYet>
</template>
