<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useJournal } from '@/stores/journal'
import { useNoting } from '@/stores/noting'
import EveningsTab from './EveningsTab.vue'

const KeepSafe = defineAsyncComponent(() => import('./KeepSafe.vue'))
const ListsTab = defineAsyncComponent(() => import('./ListsTab.vue'))
const LessonsTab = defineAsyncComponent(() => import('./LessonsTab.vue'))

defineEmits<{ evening: [] }>()
const noting = useNoting()
const journal = useJournal()
const TABS = { evenings: 'Evenings', lists: 'Lists', lessons: 'What it teaches' } as const
const isKeeping = ref(false)
const route = useRoute()
watch(() => route.query.tab, now => { if (typeof now === 'string' && now in TABS) journal.tab = now as keyof typeof TABS }, { immediate: true })
const { answer, refusal, isLoading, load } = useAsked(() => call<Schema<'EveningPage'>>('/journal/evenings'), ['journal', 'setup', 'eyepiece'])
onMounted(load)
const isEmpty = computed(() => answer.value !== null && !answer.value.bars.length)
</script>

<template>
  <section class="journal">
    <header class="head">
      <h1 class="sr-only">Journal</h1>
      <v-btn-toggle v-model="journal.tab" mandatory divided variant="outlined" aria-label="What of the journal">
        <v-btn v-for="(word, name) in TABS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <span class="gap" />
      <v-btn variant="text" @click="isKeeping = true">Kept safe</v-btn>
      <v-btn color="primary" variant="flat" @click="noting.begin()">Note an observation</v-btn>
    </header>
    <ListsTab v-if="journal.tab === 'lists'" />
    <LessonsTab v-else-if="journal.tab === 'lessons'" />
    <div v-else-if="isEmpty" class="empty">
      <svg viewBox="0 0 120 90" width="170" aria-hidden="true"><path
        d="M14 16h40l6 6 6-6h40v62H66l-6 6-6-6H14zM60 22v62M26 34h22M26 46h22M72 34h22" /></svg>
      <h2>Nothing written yet</h2>
      <p>One line while it is fresh is worth more than a page next week. Key o works from every station.</p>
      <v-btn color="primary" variant="flat" size="large" @click="noting.begin()">Note your first observation</v-btn>
    </div>
    <p v-else-if="refusal && !answer" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!answer" :active="isLoading" indeterminate color="primary"
      aria-label="Reading the journal" />
    <EveningsTab v-else />
    <KeepSafe v-if="isKeeping" v-model="isKeeping" />
  </section>
</template>

<style scoped>
.journal { height: 100%; padding: 10px 20px 0; display: flex; flex-direction: column; gap: 10px; min-height: 0; }
.journal > :not(.head) { flex: 1 1 0; min-height: 0; }
.head { display: flex; gap: 8px 12px; align-items: center; flex: none; flex-wrap: wrap; } .gap { flex: 1; }
.empty { display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
@media (max-width: 699px) { .journal { padding: 8px 12px 0; } .gap { display: none; } }
</style>
