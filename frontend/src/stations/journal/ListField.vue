<script setup lang="ts">
import type { Schema } from '@/api/client'
import OutcomeMark from './OutcomeMark.vue'
import { OUTCOMES } from './outcomes'

/** A list as a field of marks, one a thing, in the list's order; a mark opens what it stands for. */
defineProps<{ marks: readonly Schema<'Mark'>[], chosen: number | null }>()
defineEmits<{ choose: [Schema<'Mark'>] }>()
/** What tells a mark apart in a few letters: its number where it has one, else the beginning of its name. */
function short (name: string): string {
  const bare = /^[A-Z]+\d+(?= )/.exec(name)?.[0] ?? name.replace('Crater ', '')
  return bare.length > 10 ? `${bare.slice(0, 9)}…` : bare
}
</script>

<template>
  <ol class="field" aria-label="The list, mark by mark">
    <li v-for="mark in marks" :key="mark.number">
      <button type="button" class="mark plain-button" :class="{ chosen: chosen === mark.number }"
        :aria-pressed="chosen === mark.number"
        :aria-label="`${mark.name}, ${OUTCOMES[mark.state].word}`" @click="$emit('choose', mark)">
        <OutcomeMark :state="mark.state" silent />
        <span class="name" aria-hidden="true">{{ short(mark.name) }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.field { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(66px, 1fr)); gap: 2px; }
.mark { width: 100%; min-height: 48px; display: grid; justify-items: center; align-content: center; border-radius: 8px; }
.mark:hover, .chosen { background: var(--jade-wash); } .chosen { box-shadow: inset 0 -3px 0 var(--jade); }
.name { font-size: 12px; white-space: nowrap; }
</style>
