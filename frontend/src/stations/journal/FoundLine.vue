<script setup lang="ts">
import { computed } from 'vue'
import { clockTime, dateWords } from '@/shell/time'
import type { Schema } from '@/api/client'
import OutcomeMark from './OutcomeMark.vue'
import { stateOf } from './outcomes'

/** One note that was found: what, when, with what, and the beginning of its words. */
const props = defineProps<{ row: Schema<'FoundRow'>, isChosen: boolean }>()
defineEmits<{ choose: [] }>()
const glass = computed(() => [props.row.telescope_name, props.row.glass, props.row.magnification ? `${props.row.magnification.toFixed(0)}×` : '']
  .filter(Boolean).join(' · '))
const extras = computed(() => [props.row.has_sketch ? 'sketch' : '', props.row.has_picture ? 'picture' : ''].filter(Boolean).join(', '))
</script>

<template>
  <button type="button" class="found plain-button" :class="{ chosen: isChosen }" :aria-pressed="isChosen"
    @click="$emit('choose')">
    <OutcomeMark :state="stateOf(row.outcome)" />
    <span class="what">
      <span class="head"><b>{{ row.object_name }}</b><span
        class="quiet small">{{ dateWords(row.observed_at_utc, row.zone)
        }}, {{ clockTime(row.observed_at_utc, row.zone) }}{{ row.site_name ? ` · ${row.site_name}` : ''
          }}</span></span>
      <span v-if="glass || extras" class="quiet small">{{ [glass, extras].filter(Boolean).join(' · ') }}</span>
      <span class="words">{{ row.words }}</span>
    </span>
  </button>
</template>

<style scoped>
.found { display: grid; grid-template-columns: 24px minmax(0, 1fr); gap: 8px; width: 100%; padding: 8px; border-top: 1px solid var(--line); min-height: 56px; content-visibility: auto; contain-intrinsic-size: auto 84px; }
.found:hover { background: var(--jade-wash); } .chosen { background: var(--jade-wash); box-shadow: inset 4px 0 0 var(--jade); }
.chosen .quiet, .found:hover .quiet { color: var(--ink); }
.found:focus-visible { outline-offset: -3px; }
.what { display: grid; gap: 2px; min-width: 0; }
.head { display: flex; gap: 4px 10px; flex-wrap: wrap; align-items: baseline; }
.words { display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; overflow-wrap: anywhere; }
</style>
