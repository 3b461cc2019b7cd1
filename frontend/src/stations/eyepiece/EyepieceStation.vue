<script setup lang="ts">
import NotYet from '@/shell/NotYet.vue'
</script>

<template>
  <NotYet
    title="Eyepiece"
    words="Here you will have one target, one big next step and the countdowns that go with it."
  >
    <circle cx="60" cy="30" r="24" /><circle cx="60" cy="30" r="9" />
  </NotYet>
</template>
