<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { call, type Schema } from '@/api/client'
import { lazily } from '@/shell/lazily'
import { useAsked } from '@/shell/useAsked'
import { clockTime, dateWords, ownZone } from '@/shell/time'
import { useJournal } from '@/stores/journal'
import { useNoting } from '@/stores/noting'
import EveningsTab from './EveningsTab.vue'

const KeepSafe = lazily(() => import('./KeepSafe.vue'))
const ListsTab = lazily(() => import('./ListsTab.vue'))
const LessonsTab = lazily(() => import('./LessonsTab.vue'))

defineEmits<{ evening: [] }>()
const noting = useNoting()
const journal = useJournal()
const TABS = { evenings: 'Evenings', lists: 'Lists', lessons: 'What it teaches' } as const
const isKeeping = ref(false)
const route = useRoute()
watch(() => route.query.tab, now => { if (typeof now === 'string' && now in TABS) journal.tab = now as keyof typeof TABS }, { immediate: true })
const { answer: copies, load } = useAsked(() => call<Schema<'Copies'>>('/journal/everything/copies'), ['journal'])
onMounted(load)
const ZONE = ownZone()
/** When the last copy was made and where it lies; why not, if it was not. */
const copyWords = computed(() => {
  const last = copies.value?.copies[0]
  if (copies.value?.failed_words) return `The daily copy failed: ${copies.value.failed_words}`
  return last ? `Copied ${dateWords(last.made_at_utc, ZONE)}, ${clockTime(last.made_at_utc, ZONE)}, to ${copies.value?.folder}` : ''
})
</script>

<template>
  <section class="journal">
    <header class="head">
      <h1 class="sr-only">Journal</h1>
      <v-btn-toggle role="group"
        v-model="journal.tab" mandatory divided variant="outlined" aria-label="What of the journal">
        <v-btn v-for="(word, name) in TABS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <p class="gap quiet small">{{ copyWords }}</p>
      <v-btn variant="text" @click="isKeeping = true">Kept safe</v-btn>
      <v-btn color="primary" variant="flat" @click="noting.begin()">Note an observation</v-btn>
    </header>
    <ListsTab v-if="journal.tab === 'lists'" />
    <LessonsTab v-else-if="journal.tab === 'lessons'" />
    <EveningsTab v-else />
    <KeepSafe v-if="isKeeping" v-model="isKeeping" />
  </section>
</template>

<style scoped>
.journal { height: 100%; padding: 10px 20px 0; display: flex; flex-direction: column; gap: 10px; min-height: 0; }
.journal > :not(.head) { flex: 1 1 0; min-height: 0; }
.head { display: flex; gap: 8px 12px; align-items: center; flex: none; flex-wrap: wrap; } .gap { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; text-align: right; }
@media (max-width: 699px) { .journal { padding: 8px 12px 0; } .gap { display: none; } }
</style>
