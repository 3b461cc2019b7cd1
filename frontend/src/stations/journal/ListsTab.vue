<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { askFile, call, type Schema } from '@/api/client'
import { sites } from '@/api/items'
import ImportDialog from '@/shell/ImportDialog.vue'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { save } from '@/shell/saveFile'
import { clockTime, dateWords } from '@/shell/time'
import { toldFile } from '@/shell/toldFile'
import { useAsked, useAttempt } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'
import { useJournal } from '@/stores/journal'
import { usePlan } from '@/stores/plan'
import ListField from './ListField.vue'
import OutcomeMark from './OutcomeMark.vue'
import { OUTCOMES, type State } from './outcomes'

type Mark = Schema<'Mark'>
const evening = useEvening()
const journal = useJournal()
const plan = usePlan()
const notices = useNotices()
const { answer: lists, refusal, isLoading, load } = useAsked(() => call<Schema<'ListProgress'>[]>('/journal/lists'), ['journal'])
onMounted(load)
const { answer: places, load: loadPlaces } = useAsked(() => sites.list(), ['evening'])
onMounted(loadPlaces)
const key = useKept('journal-list', 'classic')
const list = computed(() => lists.value?.find(one => one.key === key.value) ?? lists.value?.[0] ?? null)
const chosen = ref<Mark | null>(null)
const siteId = ref<number | null>(null)
const placeId = computed(() => siteId.value ?? evening.evening?.site?.id ?? null)
const { answer: ahead, refusal: noAhead, isLoading: isReckoning, load: reckon } = useAsked(async () => list.value && placeId.value
  ? call<Schema<'ListAhead'>>(`/journal/lists/${list.value.key}/ahead?site_id=${placeId.value}`) : null, ['evening', 'kit'])
const wanted = computed(() => `${list.value?.key} ${placeId.value} ${list.value?.marks.map(one => one.state).join('')}`)
watch(wanted, (now, before) => {
  if (now.split(' ')[0] !== before?.split(' ')[0]) chosen.value = null
  ahead.value = null
  void reckon()
}, { immediate: true })
const when = computed(() => new Map(ahead.value?.rows.map(one => [one.target_key, one])))
/** What is left, what comes soonest first; what has no night comes last. */
const left = computed(() => {
  const rows = (list.value?.marks ?? []).filter(one => one.state === 'open' || one.state === 'tried')
  const at = (one: Mark) => when.value.get(one.target_key ?? '')?.at_utc ?? '9999'
  return [...rows].sort((a, b) => at(a).localeCompare(at(b)) || a.number - b.number)
})
const tonight = computed(() => {
  const date = evening.evening?.night?.date
  return left.value.filter(one => one.target_key && when.value.get(one.target_key)?.date === date).map(one => one.target_key!)
})
const canPlan = computed(() => siteId.value === null || siteId.value === evening.evening?.site?.id)
async function add (keys: readonly string[]) {
  if (await plan.add(keys)) notices.say(keys.length === 1 ? 'Added to tonight.' : `${keys.length} added to tonight.`)
}
const wordsOf = (mark: Mark) => mark.target_key ? when.value.get(mark.target_key)?.words ?? '' : 'Not in the catalogue: no place to look for it.'
const about = (mark: Mark) => [mark.kind, mark.constellation, OUTCOMES[mark.state].word].filter(Boolean).join(' · ')
const planWords = (target: string) => plan.has(target) ? "In tonight's plan" : 'Add to tonight'
function notedWords (mark: Mark): string {
  const at = mark.first_utc ?? ''
  const often = mark.times === 1 ? 'Noted once' : `Noted ${mark.times} times`
  return `${often}; ${mark.state === 'tried' ? 'tried' : 'first'} ${dateWords(at, evening.zone)}, ${clockTime(at, evening.zone)}.`
}
const { refusal: noFile, isBusy, once } = useAttempt()
const isImporting = ref(false)
const withSketches = useKept('log-sketches', true)
const told = toldFile(count => `Keep a list of ${count}`)
const log = (kind: 'pdf' | 'csv') => once(async () => save(await askFile(`/journal/lists/${list.value!.key}/log.${kind}${kind === 'pdf' ? `?sketches=${withSketches.value}` : ''}`), `log-${list.value!.key}.${kind}`), kind)
async function remove () {
  const gone = list.value
  if (!gone?.list_id) return
  await once(() => call(`/journal/lists/${gone.list_id}`, { method: 'DELETE' }))
  if (noFile.value) return
  key.value = 'classic'
  notices.say(`The list “${gone.title}” is gone; its notes stay.`, async () => {
    await call(`/journal/lists/${gone.list_id}/restore`, { method: 'POST' })
    key.value = gone.key
  })
}
function openNote (mark: Mark) {
  if (!mark.observation_id) return
  journal.tab = 'evenings'
  journal.openNote(mark.observation_id)
}
const STATES = Object.keys(OUTCOMES) as State[]
</script>

<template>
  <div class="lists">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!lists" :active="isLoading" indeterminate color="primary"
      aria-label="Reading the lists" />
    <template v-if="lists && list">
      <nav class="choose" aria-label="Lists">
        <button v-for="one in lists" :key="one.key" type="button" class="card plain-button"
          :class="{ chosen: one.key === list.key }"
          :aria-pressed="one.key === list.key" @click="key = one.key">
          <b>{{ one.title }}</b><span class="small">{{ one.seen + one.glimpsed }} of {{ one.marks.length }}</span>
          <span class="share" aria-hidden="true"><i
            :style="{ width: `${100 * (one.seen + one.glimpsed) / one.marks.length}%`
            }" /></span>
        </button>
        <button type="button" class="link-button" @click="isImporting = true">A list of your own …</button>
      </nav>
      <div class="two">
        <section class="left scroll-y" :aria-label="list.title">
          <header class="head"><div><h2>{{ list.title }}</h2><p class="quiet small">{{ list.about }}
            {{ list.words }}</p></div>
            <span class="tools"><v-switch v-model="withSketches" label="Sketches" color="primary" density="compact"
              hide-details class="sketches" /><v-btn size="small" :disabled="isBusy" @click="log('pdf')">Log on
                paper</v-btn><v-btn
              size="small"
              variant="text" :disabled="isBusy" @click="log('csv')">CSV</v-btn>
              <v-btn v-if="list.list_id" size="small" variant="text" @click="remove">Take out</v-btn></span></header>
          <v-progress-linear v-if="isBusy" indeterminate color="primary" aria-label="Writing the log" />
          <p v-if="noFile" role="alert" class="small">{{ noFile.words }}</p>
          <ListField :marks="list.marks" :chosen="chosen?.number ?? null" @choose="chosen = $event" />
          <ul class="legend small"><li v-for="one in STATES" :key="one"><OutcomeMark :state="one" :size="16" /> {{
            OUTCOMES[one].word }}</li></ul>
        </section>
        <section class="right scroll-y" aria-label="What is left">
          <article v-if="chosen" class="one">
            <header><OutcomeMark :state="chosen.state" /><h3>{{ chosen.name }}</h3><v-btn variant="text" size="small"
              @click="chosen = null">Close</v-btn></header>
            <p class="quiet">{{ about(chosen) }}</p>
            <p v-if="chosen.first_utc">{{ notedWords(chosen) }}</p>
            <p v-if="chosen.state === 'open' || chosen.state === 'tried'">{{ wordsOf(chosen) }}</p>
            <span class="tools">
              <v-btn v-if="chosen.observation_id" size="small" @click="openNote(chosen)">Read the note</v-btn>
              <v-btn v-if="chosen.target_key && canPlan" size="small" :disabled="plan.has(chosen.target_key)"
                @click="add([chosen.target_key])">{{ planWords(chosen.target_key) }}</v-btn>
            </span>
          </article>
          <header class="head"><div><h2>What is left, and when</h2><p
            class="quiet small">{{ left.length ? `${left.length} to
            go, soonest first.` : 'Nothing: the list is done.' }}</p></div>
            <v-select v-if="places && places.length > 1" :model-value="placeId" :items="places" item-title="name"
              item-value="id" label="From" density="compact" hide-details class="from" @update:model-value="siteId =
                $event" />
          </header>
          <p v-if="!placeId" class="quiet">Choose your place, and the nights are named here.</p>
          <p v-if="noAhead" role="alert">{{ noAhead.words }}</p>
          <v-progress-linear v-if="isReckoning" indeterminate color="primary" aria-label="Looking for good nights" />
          <v-btn v-if="tonight.length > 1 && canPlan" size="small" class="all" @click="add(tonight)">Add all {{
            tonight.length }} of tonight</v-btn>
          <ol class="rows" :aria-label="ahead ? 'With the next good nights' : undefined">
            <li v-for="mark in left" :key="mark.number">
              <button type="button" class="row plain-button" @click="chosen = mark"><OutcomeMark :state="mark.state"
                :size="16" />
                <b>{{ mark.name }}</b><span class="small">{{ wordsOf(mark) }}</span></button>
            </li>
          </ol>
        </section>
      </div>
    </template>
    <ImportDialog v-model="isImporting" title="A list of your own" :told="told"
      hint="A CSV file with one name a row, such as M31, NGC 7662 or Albireo. It is named after its file."
      preview="/journal/lists/check" store="/journal/lists" @applied="load()" />
  </div>
</template>

<style scoped>
.lists { display: flex; flex-direction: column; gap: 10px; height: 100%; min-height: 0; }
.choose { display: flex; gap: 10px; flex-wrap: wrap; align-items: stretch; flex: none; }
.card { border: 1px solid var(--edge); border-radius: 10px; padding: 6px 14px 8px; display: grid; grid-template-columns: auto auto; gap: 0 12px; align-items: center; min-height: 48px; background: var(--surface); }
.card.chosen { background: var(--jade-wash); box-shadow: inset 0 -4px 0 var(--jade); }
.share { grid-column: 1 / -1; height: 5px; border-radius: 3px; background: var(--line); overflow: hidden; } .share i { display: block; height: 100%; background: var(--jade); }
.two { flex: 1; display: grid; grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); gap: 24px; min-height: 0; }
.left, .right { min-width: 0; display: flex; flex-direction: column; gap: 8px; padding: 8px 0 12px; }
.head { display: flex; justify-content: space-between; gap: 12px; align-items: start; flex-wrap: wrap; }
.tools { display: flex; gap: 4px 8px; flex-wrap: wrap; align-items: center; } .sketches { flex: none; } .from { max-width: 220px; }
.legend { list-style: none; margin: 0; padding: 0; display: flex; gap: 4px 18px; flex-wrap: wrap; } .legend li { display: flex; gap: 6px; align-items: center; }
.one { border: 1px solid var(--line); border-radius: 10px; background: var(--surface); padding: 10px 14px; display: grid; gap: 6px; } .one header { display: flex; gap: 8px; align-items: center; } .one h3 { flex: 1; font-size: 18px; }
.all { align-self: start; }
.rows { list-style: none; margin: 0; padding: 0; }
.row { display: grid; grid-template-columns: 20px minmax(0, 0.9fr) minmax(0, 1.4fr); gap: 8px; align-items: center; width: 100%; min-height: max(40px, var(--least)); border-top: 1px solid var(--line); padding: 4px; content-visibility: auto; contain-intrinsic-size: auto 44px; }
:root[data-regime='dark'] .row { min-height: 48px; }
.row:hover { background: var(--jade-wash); } .row:focus-visible { outline-offset: -3px; }
@media (max-width: 899px) { .lists { overflow-y: auto; } .two { display: flex; flex-direction: column; } .two > section { overflow: visible; } .row { grid-template-columns: 20px minmax(0, 1fr); } .row span { grid-column: 2; } }
</style>
