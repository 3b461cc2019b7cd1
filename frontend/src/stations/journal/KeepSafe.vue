<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue'
import { askFile, call, type Schema } from '@/api/client'
import RefusalLine from '@/shell/RefusalLine.vue'
import { save } from '@/shell/saveFile'
import { clockTime, dateWords, ownZone } from '@/shell/time'
import { useAsked, useAttempt } from '@/shell/useAsked'

type Report = Schema<'FileReport'>
/** Everything out in one file and in again, and where the daily copies lie. */
const isOpen = defineModel<boolean>({ required: true })
const ZONE = ownZone()
const { answer: copies, refusal: noCopies, load } = useAsked(() => call<Schema<'Copies'>>('/journal/everything/copies'))
const { answer: unreadable, load: look } = useAsked(() => call<string[]>('/journal/everything/unreadable'))
const out = useAttempt()
const into = useAttempt()
const progress = shallowRef<Schema<'Progress'> | null>(null)
const report = shallowRef<Report | null>(null)
const file = shallowRef<File | null>(null)
/** The zip that was sent from here: what is taken in is what was reported. */
let key = ''
let ticking: ReturnType<typeof setInterval> | undefined
const isBusy = computed(() => out.isBusy.value || into.isBusy.value)
/** While something is carried it says how far it is. */
watch(isBusy, now => {
  clearInterval(ticking)
  progress.value = null
  if (now) ticking = setInterval(() => void call<Schema<'Progress'>>('/journal/everything/progress').then(told => { progress.value = told }, () => {}), 400)
})
onBeforeUnmount(() => clearInterval(ticking))
watch(isOpen, now => { if (now) void Promise.all([load(), look()]) }, { immediate: true })
const share = computed(() => progress.value?.total ? Math.min(100, 100 * progress.value.done / progress.value.total) : null)
const told = computed(() => progress.value && progress.value.doing !== 'nothing'
  ? `${progress.value.doing}: ${progress.value.done}${progress.value.total ? ` of ${progress.value.total}` : ''}` : 'working')
const last = computed(() => copies.value?.copies[0] ?? null)
const lastWords = computed(() => last.value
  ? `The last copy was made ${dateWords(last.value.made_at_utc, ZONE)}, ${clockTime(last.value.made_at_utc, ZONE)}, and lies in`
  : 'No copy has been made yet; the first comes shortly after the start. They lie in')
const sizeWords = computed(() => last.value && copies.value
  ? `(${(last.value.size_bytes / 1e6).toFixed(1)} MB, ${copies.value.copies.length} of ${copies.value.kept_days} days)` : '')

const pack = () => out.once(async () => {
  const packed = await call<Schema<'Packed'>>('/journal/everything/pack', { method: 'POST' })
  save(await askFile('/journal/everything/everything.zip'), packed.name)
})
async function choose (event: Event) {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0] ?? null
  report.value = null
  const zip = file.value
  if (zip) {
    report.value = await into.attempt(async () => {
      key = (await call<Schema<'Sent'>>('/journal/everything/upload', { method: 'POST', zip })).key
      return call<Report>(`/journal/everything/check?key=${key}`, { method: 'POST' })
    }) ?? null
  }
  input.value = ''
}
async function keep () {
  report.value = await into.once(() => call<Report>(`/journal/everything/keep?key=${key}`, { method: 'POST' })) ?? report.value
}
function close () {
  isOpen.value = false
  report.value = file.value = null
  out.refusal.value = into.refusal.value = null
}
</script>

<template>
  <PageDialog :model-value="isOpen" max-width="680" scrollable aria-label="Kept safe" @update:model-value="close">
    <v-card class="safe">
      <h1>Kept safe</h1>
      <section><h2>A copy every day</h2>
        <p v-if="copies">{{ lastWords }} <span class="path">{{ copies.folder }}</span>
          {{ sizeWords }}.</p>
        <p v-if="copies?.failed_words" role="alert"><b>The last try failed:</b> {{ copies.failed_words }}</p>
        <p class="quiet small">To put one back, end the application and type <code>jade-perch restore
          latest</code>.</p>
        <RefusalLine :refusal="noCopies" />
      </section>
      <section v-if="unreadable?.length" role="alert"><h2>What cannot be read</h2>
        <p class="small">These hold something they cannot have. They stay as they are, and out of every list.</p>
        <ul class="rows scroll-y"><li v-for="one in unreadable" :key="one" class="small">{{ one }}</li></ul>
      </section>
      <section><h2>Everything in one file</h2>
        <p class="quiet small">Kit, places, evenings, readings, notes, sketches, pictures and lists, as open files in a
          zip.</p>
        <v-btn color="primary" variant="flat" :disabled="isBusy" class="go" @click="pack">Save everything</v-btn>
        <RefusalLine :refusal="out.refusal.value" />
      </section>
      <section><h2>Take such a file in</h2>
        <p class="quiet small">What is here already stays as it is. Nothing is stored before you say so.</p>
        <label class="file"><span>{{ file ? file.name : 'Choose a zip …' }}</span>
          <input type="file" accept=".zip,application/zip" class="sr-only" :disabled="isBusy"
            aria-label="Zip with everything" @change="choose"></label>
        <RefusalLine :refusal="into.refusal.value" />
        <template v-if="report">
          <p role="status"><b>{{ report.applied ? 'Done: ' : '' }}{{ report.words }}</b></p>
          <ul class="rows scroll-y"><li v-for="row in report.rows"
            :key="`${row.name}${row.line}`"><b>{{ row.name }}</b>
            {{ row.outcome }}<div v-for="one in row.problems" :key="one.detail"
              class="small">{{ one.detail }}</div></li></ul>
          <v-btn v-if="!report.applied && !report.refused && report.taken" color="primary" variant="flat" class="go"
            :loading="into.isBusy.value" @click="keep">Take in {{ report.taken }} things</v-btn>
        </template>
      </section>
      <div v-if="isBusy" class="progress">
        <v-progress-linear :model-value="share ?? 0" :indeterminate="share === null" color="primary"
          :aria-label="told" />
        <span class="quiet small figures">{{ told }}</span></div>
      <v-btn class="go" @click="close">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.safe { padding: 24px; display: flex; flex-direction: column; gap: 16px; max-height: 92dvh; overflow-y: auto; }
section { display: grid; gap: 6px; justify-items: start; } .go { align-self: start; }
.path, code { font-family: var(--figures); font-size: 14px; overflow-wrap: anywhere; }
.file { border: 2px dashed var(--edge); border-radius: 10px; min-height: 52px; padding: 0 20px; display: grid; place-items: center; cursor: pointer; }
.file:focus-within { outline: 3px solid var(--jade); outline-offset: 2px; }
.rows { list-style: none; margin: 0; padding: 0; max-height: 30dvh; width: 100%; } .rows li { border-top: 1px solid var(--line); padding: 6px 0; }
.progress { display: grid; gap: 4px; }
</style>
