<script setup lang="ts">
import type { Owned } from '@/stores/kit'
import { KINDS, type KindName } from './kitFields'

defineProps<{ owned: Owned }>()
defineEmits<{ open: [kind: KindName, item: { id?: number | null, name: string } | null] }>()
const SMALL = ['mount', 'diagonal', 'finder', 'light_filter'] as const
</script>

<template>
  <div class="parts">
    <section v-for="kind in SMALL" :key="kind" :aria-label="KINDS[kind].plural">
      <h2>{{ KINDS[kind].plural }}<button type="button" class="link-button add"
        :aria-label="`Add ${KINDS[kind].word}`" @click="$emit('open', kind, null)">Add</button></h2>
      <div class="row">
        <button v-for="one in owned[kind]" :key="one.id ?? 0" type="button" class="part"
          @click="$emit('open', kind, one)">{{ one.name }}</button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: 1.2fr 1fr 1.15fr 1fr; gap: 18px; }
h2 { font-size: 14px; color: var(--ink-quiet); display: flex; align-items: center; gap: 12px; }
.row { display: flex; flex-wrap: wrap; gap: 6px; }
.part { font: inherit; font-size: 15px; color: inherit; background: var(--surface); border: 1px solid var(--edge); border-radius: 8px; min-height: 48px; padding: 0 10px; cursor: pointer; }
.part:hover { border-color: var(--jade); }
.add { padding: 0 6px; min-height: max(40px, var(--least)); font-size: 14px; }
@media (max-width: 899px) { .parts { grid-template-columns: 1fr 1fr; } }
@media (max-width: 699px) { .parts { grid-template-columns: 1fr; } }
</style>
