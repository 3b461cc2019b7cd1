<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { usePaged } from '@/shell/usePaged'
import { useSize } from '@/shell/width'
import { NO_FILTERS, useJournal } from '@/stores/journal'
import { useNoting } from '@/stores/noting'
import EveningBar from './EveningBar.vue'
import EveningPanel from './EveningPanel.vue'
import FoundLine from './FoundLine.vue'
import NotePanel from './NotePanel.vue'

type Bar = Schema<'EveningBar'>
type Row = Schema<'FoundRow'>
const journal = useJournal()
const noting = useNoting()
/** In the order they are offered; the type wants every kind the server knows, and no other. */
const KINDS = Object.keys({
  'moon': 0, 'planet': 0, 'Moon feature': 0, 'double star': 0, 'star': 0, 'open cluster': 0, 'globular cluster': 0, 'galaxy': 0,
  'nebula': 0, 'planetary nebula': 0, 'asterism': 0, 'cluster with nebula': 0, 'star cloud': 0, 'supernova remnant': 0,
} satisfies Record<Schema<'Target'>['kind'], 0>)
const RESULTS = [{ title: 'Seen', value: 'seen' }, { title: 'Glimpsed', value: 'glimpsed' }, { title: 'Not seen', value: 'not seen' }]
const showsFilters = ref(false)
const { answer: telescopes, load: loadTelescopes } = useAsked(() => call<Schema<'TelescopeUsed'>[]>('/journal/telescopes'), ['journal'])
onMounted(loadTelescopes)
const asked = computed(() => {
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(journal.filters)) if (typeof value === 'string' && value.trim()) query.set(name, value.trim())
  return query.toString()
})
const isSearching = computed(() => asked.value !== '')
const evenings = usePaged<Bar, Schema<'EveningPage'>>(
  last => call(`/journal/evenings${last ? `?before_date=${last.date}&before_id=${last.evening_id}` : ''}`),
  answer => ({ rows: answer.bars, isAll: answer.is_all }), ['journal', 'evening', 'setup', 'eyepiece'],
)
const found = usePaged<Row, Schema<'Found'>>(
  last => call(`/journal/search?${asked.value}${last ? `&before_utc=${encodeURIComponent(last.observed_at_utc)}&before_id=${last.id}` : ''}`),
  answer => ({ rows: answer.rows, isAll: answer.is_all }), ['journal'],
)
onMounted(() => evenings.load())
watch(asked, now => { if (now) void found.load() }, { immediate: true })
const list = ref<HTMLElement | null>(null)
const { width } = useSize(list)
const barWidth = computed(() => Math.max(120, width.value - (width.value < 520 ? 24 : 196)))
const isEmpty = computed(() => evenings.first.value !== null && !evenings.rows.value.length)
const isOpen = computed(() => journal.eveningId !== null || journal.noteId !== null)
/** Nothing chosen yet: the newest evening is opened where there is room beside the list. */
watch(() => evenings.rows.value[0]?.evening_id, id => {
  if (id && !isOpen.value && matchMedia('(min-width: 1000px)').matches) journal.openEvening(id)
})
const total = computed(() => {
  const page = evenings.first.value
  return page ? `${page.notes} ${page.notes === 1 ? 'note' : 'notes'} of ${page.evenings} ${page.evenings === 1 ? 'evening' : 'evenings'}` : ''
})
const counted = computed(() => {
  const answer = found.first.value
  if (!answer) return ''
  const { count, most_counted: most } = answer
  return count === null ? `over ${most} notes` : `${count} ${count === 1 ? 'note' : 'notes'}`
})
</script>

<template>
  <div v-if="isEmpty && !isSearching" class="empty">
    <svg viewBox="0 0 120 90" width="170" aria-hidden="true"><path
      d="M14 16h40l6 6 6-6h40v62H66l-6 6-6-6H14zM60 22v62M26 34h22M26 46h22M72 34h22" /></svg>
    <h2>Nothing written yet</h2>
    <p>One line while it is fresh is worth more than a page next week. Key o works from every station.</p>
    <v-btn color="primary" variant="flat" size="large" @click="noting.begin()">Note your first observation</v-btn>
  </div>
  <div v-else class="evenings" :class="{ open: isOpen }">
    <section class="left" aria-label="Evenings and notes">
      <div class="search">
        <v-text-field v-model="journal.filters.text" label="Search every note" density="compact" clearable hide-details
          @click:clear="journal.filters.text = ''" />
        <v-btn variant="text" :aria-expanded="showsFilters" @click="showsFilters = !showsFilters">Filter</v-btn>
      </div>
      <div v-if="showsFilters" class="filters">
        <v-select v-model="journal.filters.kind" :items="KINDS" label="Kind" density="compact" clearable hide-details
          />
        <v-select v-model="journal.filters.outcome" :items="RESULTS" label="Outcome" density="compact" clearable
          hide-details />
        <v-select v-model="journal.filters.telescope" :items="(telescopes ?? []).map(one => one.name)"
          label="Telescope"
          density="compact" clearable hide-details />
        <v-text-field v-model="journal.filters.since" label="From" placeholder="2027-01-01" density="compact"
          hide-details />
        <v-text-field v-model="journal.filters.until" label="Until" placeholder="2027-12-31" density="compact"
          hide-details />
      </div>
      <p class="count quiet small" role="status">
        {{ isSearching ? counted : total }}
        <button v-if="isSearching" type="button" class="link-button all"
          @click="journal.filters = { ...NO_FILTERS }">All
          evenings</button>
      </p>
      <p v-if="(isSearching ? found : evenings).refusal.value" role="alert">
        {{ (isSearching ? found : evenings).refusal.value?.words }}</p>
      <div ref="list" class="list scroll-y">
        <template v-if="isSearching">
          <FoundLine v-for="row in found.rows.value" :key="row.id" :row="row" :is-chosen="journal.noteId === row.id"
            @choose="journal.openNote(row.id)" />
          <p v-if="found.first.value && !found.rows.value.length" class="quiet">Nothing noted has these words.</p>
          <div :ref="(el) => { found.end.value = el as HTMLElement | null }" class="end" />
        </template>
        <template v-else>
          <button v-for="bar in evenings.rows.value" :key="bar.evening_id" type="button" class="evening plain-button"
            :class="{ chosen: journal.eveningId === bar.evening_id }" :aria-pressed="journal.eveningId ===
              bar.evening_id"
            @click="journal.openEvening(bar.evening_id)">
            <span class="when"><b>{{ bar.day_words }}</b><span
              class="quiet small">{{ bar.place_name || 'no place named'
              }}</span></span>
            <span class="drawn"><EveningBar :bar="bar" :width="barWidth" /><span class="quiet small">{{ bar.words
              }}</span></span>
          </button>
          <v-progress-linear v-if="!evenings.isAsked.value" indeterminate color="primary"
            aria-label="Reading the journal" />
          <div :ref="(el) => { evenings.end.value = el as HTMLElement | null }" class="end" />
        </template>
      </div>
    </section>
    <section class="right scroll-y" aria-label="What is chosen">
      <v-btn class="back" variant="text" @click="journal.close()">Back to the list</v-btn>
      <EveningPanel v-if="journal.eveningId !== null" :key="journal.eveningId" :evening-id="journal.eveningId" />
      <NotePanel v-else-if="journal.noteId !== null" :key="`n${journal.noteId}`" :note-id="journal.noteId" />
      <p v-else class="quiet">Choose an evening or a note.</p>
    </section>
  </div>
</template>

<style scoped>
.evenings { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 20px; height: 100%; min-height: 0; }
.left, .right { min-height: 0; min-width: 0; }
.left { display: flex; flex-direction: column; gap: 6px; }
.right { padding-bottom: 14px; }
.search { display: flex; gap: 8px; align-items: center; }
.filters { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 8px; }
.count { display: flex; gap: 14px; align-items: center; min-height: max(28px, var(--least)); } .all { padding: 0; min-height: max(28px, var(--least)); }
:root[data-regime='dark'] .all { min-height: 48px; }
.list { flex: 1; min-height: 0; }
.evening { display: grid; grid-template-columns: 150px minmax(0, 1fr); gap: 12px; width: 100%; padding: 8px; border-top: 1px solid var(--line); content-visibility: auto; contain-intrinsic-size: auto 84px; }
.evening:hover { background: var(--jade-wash); } .chosen { background: var(--jade-wash); box-shadow: inset 4px 0 0 var(--jade); }
.chosen .quiet, .evening:hover .quiet { color: var(--ink); }
.evening:focus-visible { outline-offset: -3px; }
.when, .drawn { display: grid; gap: 2px; align-content: start; min-width: 0; overflow: hidden; }
.end { height: 1px; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
.back { display: none; }
@media (max-width: 999px) {
  .evenings { grid-template-columns: minmax(0, 1fr); }
  .right { display: none; } .open .left { display: none; } .open .right { display: block; } .open .back { display: inline-flex; }
}
@media (max-width: 699px) { .evening { grid-template-columns: minmax(0, 1fr); } .filters { grid-template-columns: 1fr 1fr; } }
</style>
