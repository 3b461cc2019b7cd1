<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { call } from '@/api/client'
import type { Observation } from '@/api/items'
import { dateWords } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'
import { useJournal } from '@/stores/journal'
import NoteCard from './NoteCard.vue'

/** One note that was found, whole, with the way to its evening. */
const props = defineProps<{ noteId: number }>()
const journal = useJournal()
const { answer, refusal, load } = useAsked(() => call<Observation>(`/journal/observations/${props.noteId}`), ['journal'])
onMounted(load)
const place = computed(() => answer.value?.site_name || 'no place named')
</script>

<template>
  <p v-if="refusal" role="alert">{{ refusal.words }}</p>
  <div v-else-if="answer" class="one">
    <header><h2>{{ dateWords(answer.observed_at_utc, answer.zone ?? 'UTC') }}</h2><p
      class="quiet">{{ place }}</p></header>
    <NoteCard :note="answer" @gone="journal.close()" />
    <button v-if="answer.evening_id" type="button" class="link-button"
      @click="journal.openEvening(answer.evening_id)">The
      whole evening</button>
  </div>
</template>

<style scoped>
.one { display: grid; gap: 8px; justify-items: stretch; } .link-button { justify-self: start; }
</style>
