<script setup lang="ts">
import { canAskAgain, slowness } from '@/api/pending'
import { useEvents } from '@/stores/events'

/** Says that something works, and after a while that it takes long; it lies over the station and moves nothing. */
const events = useEvents()
</script>

<template>
  <div v-if="slowness !== 'none' && !events.isLost" class="working">
    <div class="bar" role="progressbar" aria-label="Working" />
    <p v-if="slowness === 'long'" class="long" role="status">{{ canAskAgain ? 'This takes longer than usual.'
      : 'This takes longer than usual; it is still being stored.' }}
      <button v-if="canAskAgain" type="button" class="link-button" @click="events.askAgain()">Ask again</button></p>
    <p v-else class="words">Working …</p>
  </div>
</template>

<style scoped>
.working { position: absolute; inset: 0 0 auto; z-index: 6; pointer-events: none; height: 0; display: grid; justify-items: center; overflow: visible; }
.bar { width: 100%; height: 4px; background: repeating-linear-gradient(90deg, var(--jade) 0 24px, var(--jade-wash) 24px 48px) 0 0 / 48px 100%; animation: run 0.8s linear infinite; }
@keyframes run { to { background-position: 48px 0; } }
.words, .long { background: var(--surface); color: var(--ink); border: 1px solid var(--edge); border-radius: 0 0 10px 10px; padding: 3px 12px; font-size: 14px; height: max-content; }
.long { pointer-events: auto; padding: 4px 16px; border-radius: 0 0 12px 12px; }
.long .link-button { padding: 0 8px; }
/* no room beside what can be pressed: the bar alone tells it, to a screen reader too */
@media (max-width: 699px) { .bar { height: 6px; } .words { display: none; } }
</style>
