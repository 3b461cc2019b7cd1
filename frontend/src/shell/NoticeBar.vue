<script setup lang="ts">
import { onScopeDispose, watch } from 'vue'
import { useNotices } from './notices'

/** So long a notice stands that has nothing to undo; what can be undone is offered until it is closed. */
const STANDS_MS = 12_000
const notices = useNotices()
let leaving: ReturnType<typeof setTimeout> | undefined
const close = () => { notices.notice = null }
/** Read at leisure: it does not leave under a finger, nor while the keys are on it. */
const hold = () => clearTimeout(leaving)
function goOn () {
  clearTimeout(leaving)
  if (notices.notice && !notices.notice.undo) leaving = setTimeout(close, STANDS_MS)
}
watch(() => notices.count, goOn, { immediate: true })
onScopeDispose(hold)
</script>

<template>
  <!-- in the ribbon's place: neither the station's buttons nor the way on lie under it -->
  <div class="place" role="status">
    <div v-if="notices.notice" :key="notices.count" class="notice"
      @pointerenter="hold" @pointerleave="goOn" @focusin="hold" @focusout="goOn">
      <p>{{ notices.notice.words }}</p>
      <v-btn v-if="notices.notice.undo" variant="text" @click="notices.undo()">Undo</v-btn>
      <v-btn variant="text" @click="close">Close</v-btn>
    </div>
  </div>
</template>

<style scoped>
.place { position: fixed; inset: auto 0 0; z-index: 10000; display: grid; justify-items: center; pointer-events: none; }
.notice {
  display: flex; align-items: center; min-height: var(--ribbon-height); max-width: 700px; padding: 0 0 0 14px; pointer-events: auto;
  color: var(--ink); background: var(--surface); box-shadow: 0 0 0 1px var(--edge);
}
p { flex: 1; margin: 0; font-size: 15px; line-height: 1.25; }
.v-btn { height: 48px; min-width: 48px; padding: 0 10px; }
@media (max-width: 699px) {
  .place { bottom: 64px; }
  .notice { width: 100%; }
}
</style>
