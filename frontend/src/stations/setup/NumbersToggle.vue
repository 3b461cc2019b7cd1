<script setup lang="ts">
/** The one line behind which the numbers of a step stand. */
const shows = defineModel<boolean>({ required: true })
</script>

<template>
  <button type="button" class="link-button" :aria-expanded="shows" @click="shows = !shows">
    {{ shows ? 'Hide the numbers' : 'Numbers, if you have them' }}</button>
</template>
