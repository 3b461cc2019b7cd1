<script setup lang="ts">
import PageDialog from './PageDialog.vue'

defineProps<{ title: string }>()
const isOpen = defineModel<boolean>({ required: true })
</script>

<template>
  <PageDialog v-model="isOpen" class="side-sheet" transition="fade-transition" :aria-label="title">
    <section class="sheet">
      <header class="sheet-head">
        <h1>{{ title }}</h1>
        <v-btn variant="text" @click="isOpen = false">Close</v-btn>
      </header>
      <div class="sheet-body scroll-y"><slot /></div>
      <footer v-if="$slots.actions" class="sheet-foot"><slot name="actions" /></footer>
    </section>
  </PageDialog>
</template>

<style>
.side-sheet { justify-content: flex-end !important; }
.side-sheet > .v-overlay__content { margin: 0 !important; width: min(440px, 100vw) !important; max-width: 100vw !important; height: 100dvh !important; max-height: 100dvh !important; }
.sheet { background: var(--surface); color: var(--ink); height: 100%; display: flex; flex-direction: column; border-left: 1px solid var(--line); }
.sheet-head { display: flex; align-items: center; justify-content: space-between; padding: 8px 8px 8px 20px; border-bottom: 1px solid var(--line); min-height: 56px; }
.sheet-body { flex: 1; padding: 20px; display: flex; flex-direction: column; gap: 18px; }
.sheet-foot { padding: 12px 20px; border-top: 1px solid var(--line); display: flex; gap: 12px; flex-wrap: wrap; }
</style>
