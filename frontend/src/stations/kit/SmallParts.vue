<script setup lang="ts">
import type { Owned } from './kitStore'
import { KINDS, type KindName } from './kitFields'

defineProps<{ owned: Owned }>()
defineEmits<{ open: [kind: KindName, item: { id?: number | null, name: string } | null] }>()
const SMALL = ['mount', 'diagonal', 'finder', 'light_filter'] as const
</script>

<template>
  <div class="parts">
    <section v-for="kind in SMALL" :key="kind" :aria-label="KINDS[kind].plural">
      <h2>{{ KINDS[kind].plural }}</h2>
      <div class="row">
        <button v-for="one in owned[kind]" :key="one.id ?? 0" type="button" class="part" @click="$emit('open', kind, one)">{{ one.name }}</button>
        <button type="button" class="part add" :aria-label="`Add ${KINDS[kind].word}`" @click="$emit('open', kind, null)">+</button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 18px; }
h2 { font-size: 14px; color: var(--ink-quiet); padding-bottom: 6px; }
.row { display: flex; flex-wrap: wrap; gap: 6px; }
.part { font: inherit; font-size: 15px; color: inherit; background: var(--surface); border: 1px solid var(--line); border-radius: 8px; min-height: 48px; padding: 0 12px; cursor: pointer; }
.part:hover { border-color: var(--jade); }
.add { border-style: dashed; min-width: 48px; font-size: 20px; color: var(--ink-quiet); }
@media (max-width: 899px) { .parts { grid-template-columns: 1fr 1fr; } }
@media (max-width: 699px) { .parts { grid-template-columns: 1fr; } }
</style>
