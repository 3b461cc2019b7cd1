<script setup lang="ts">
/** In the place of a part whose code did not come. */
const again = () => location.reload()
</script>

<template>
  <div class="missing" role="alert">
    <p><b>This part could not be loaded.</b> The application does not answer. What you typed is kept.</p>
    <button type="button" class="link-button" @click="again">Load the page again</button>
  </div>
</template>

<style scoped>
.missing {
  position: fixed; z-index: 3000; left: 50%; top: 30%; transform: translateX(-50%); max-width: min(440px, 92vw); padding: 16px 20px;
  background: var(--surface); color: var(--ink); border: 2px solid var(--brass); border-radius: 12px;
}
</style>
