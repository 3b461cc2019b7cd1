<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import HonestMark from '@/shell/HonestMark.vue'
import { EYEPIECE_KEYS, useKeys } from '@/shell/keys'
import { loadNoteSheet } from '@/shell/lazily'
import { useNotices } from '@/shell/notices'
import { clockTime } from '@/shell/time'
import { useDriftTimer } from '@/stores/driftTimer'
import { useEvening } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'
import { useNoting } from '@/stores/noting'
import { useOutbox } from '@/stores/outbox'
import { useSymptoms } from '@/stores/symptoms'
import { useTicking } from '@/stores/ticking'
import AirSheet from './AirSheet.vue'
import BesidePanel from './BesidePanel.vue'
import PackingPanel from './PackingPanel.vue'
import PeopleSheet from './PeopleSheet.vue'
import RehearsalSheet from './RehearsalSheet.vue'
import StepPanel from './StepPanel.vue'
import SymptomSheet from './SymptomSheet.vue'
import { useDarkByItself } from './darkByItself'

defineEmits<{ evening: [] }>()
const route = useRoute()
const router = useRouter()
const store = useEyepiece()
const evening = useEvening()
const outbox = useOutbox()
const ticking = useTicking()
const noting = useNoting()
const drift = useDriftTimer()
const notices = useNotices()
const symptoms = useSymptoms()
const sheet = ref<'air' | 'people' | 'rehearsal' | 'beside' | 'stuck' | null>(null)
const isPacking = computed(() => route.query.pack !== undefined)
const isOpen = (name: typeof sheet.value) => computed({ get: () => sheet.value === name, set: on => { sheet.value = on ? name : null } })
const [airIsOpen, peopleIsOpen, rehearsalIsOpen, stuckIsOpen] = [isOpen('air'), isOpen('people'), isOpen('rehearsal'), isOpen('stuck')]
useDarkByItself()

function white (personId: number | null = store.screen?.person?.id ?? null) {
  store.light(personId)
  notices.say('The eyes begin anew: red light only.')
}
const ACTS: Record<string, () => void> = {
  ' ': store.forward, Enter: store.forward, s: store.softer, e: store.enough, c: store.centred,
  l: () => store.leave('later'), k: () => store.leave('skip'), x: () => white(), p: store.nextPerson,
  d: () => void drift.toggle(true), b: () => { sheet.value = 'stuck' },
}
useKeys(key => { if (!isPacking.value) ACTS[key]?.() }, EYEPIECE_KEYS)
const pack = (on: boolean) => router.push({ path: '/eyepiece', query: on ? { pack: '1' } : {} })

/** A note is about what stands in the eyepiece. */
watch(() => store.here?.target.label, label => { if (label) noting.target = label }, { immediate: true })
onMounted(() => {
  void store.load()
  symptoms.fetch() // it is there when it is wanted, whoever answers then
  void loadNoteSheet().catch(() => {})
})
const waitingWords = computed(() => {
  const count = outbox.waiting.length
  if (!count || !outbox.isLost) return ''
  return `No answer from the application. Go on: ${count} ${count === 1 ? 'thing waits' : 'things wait'} here and will be told.`
})
</script>

<template>
  <section v-if="store.screen" class="eyepiece" :data-waiting="outbox.waiting.length">
    <PackingPanel v-if="isPacking" class="packing" @back="pack(false)" />
    <template v-else>
      <div class="now">
        <header class="top">
          <p class="what">
            <b class="name">{{ store.here?.target.label ?? 'At the eyepiece' }}</b>
            <span v-if="store.here" class="quiet">
              <template v-if="store.here.counted">{{ store.here.counted }} · </template>{{ store.here.target.kind }} ·
              {{ store.here.where_words }}</span>
          </p>
          <HonestMark v-if="evening.evening?.clock === 'rehearsal'" words="rehearsal" class="again" />
          <span class="figures clock">{{ clockTime(ticking.nowUtc, evening.zone) }}</span>
        </header>
        <p v-if="waitingWords" class="waits small" role="status">{{ waitingWords }}</p>
        <p v-if="store.screen.left_words" class="waits small">{{ store.screen.left_words }}
          <button type="button" class="link-button" @click="pack(true)">Look at it</button></p>
        <p v-for="letter in outbox.notTaken" :key="letter.key" class="waits small" role="status">
          A note was not taken: {{ letter.refused }}
          <button type="button" class="link-button" @click="noting.reopen(letter)">Open it again</button></p>
        <StepPanel @white="white()" @beside="sheet = 'beside'" @pack="pack(true)" @stuck="sheet = 'stuck'" />
      </div>
      <BesidePanel class="beside" :is-open="sheet === 'beside'" @close="sheet = null" @people="sheet = 'people'"
        @air="sheet = 'air'" @pack="pack(true)" @rehearse="sheet = 'rehearsal'" />
    </template>
    <AirSheet v-model="airIsOpen" />
    <PeopleSheet v-model="peopleIsOpen" @white="white" />
    <RehearsalSheet v-model="rehearsalIsOpen" />
    <SymptomSheet v-model="stuckIsOpen" />
  </section>
  <section v-else class="empty">
    <p v-if="store.refusal" role="alert">{{ store.refusal.words }}</p>
    <v-progress-linear v-else-if="!store.isAsked || !evening.evening" indeterminate color="primary"
      aria-label="Coming to the eyepiece" />
    <template v-else>
      <svg viewBox="0 0 160 96" width="230" aria-hidden="true"><circle cx="80" cy="48" r="40" /><circle cx="80" cy="48"
        r="14" /><path d="M80 8v12M80 76v12M40 48h12M108 48h12" /></svg>
      <h1>At the eyepiece</h1>
      <p v-if="!evening.evening.telescope">With a telescope on the bench the evening goes on here: one target,
        one step.</p>
      <p v-else>What can be seen depends on where you stand.</p>
      <v-btn v-if="!evening.evening.telescope" color="primary" variant="flat" size="large" to="/kit">Put your first
        telescope on the bench</v-btn>
      <v-btn v-else color="primary" variant="flat" size="large" @click="$emit('evening')">Choose your place</v-btn>
    </template>
  </section>
</template>

<style scoped>
.eyepiece { height: 100%; display: grid; grid-template-columns: minmax(0, 1fr) 316px; min-height: 0; }
.packing { grid-column: 1 / -1; }
.now { padding: 16px 28px 18px; display: flex; flex-direction: column; gap: 8px; min-height: 0; min-width: 0; overflow-y: auto; overflow-x: hidden; }
.top { display: flex; align-items: baseline; gap: 14px; }
.what { flex: 1; min-width: 0; }
.name { font-size: 24px; margin-right: 12px; }
.clock { font-size: 18px; }
.waits { border: 2px dashed var(--line); border-radius: 8px; padding: 6px 12px; }
.beside { border-left: 1px solid var(--line); min-height: 0; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 3; }
@media (max-width: 999px) { .eyepiece { grid-template-columns: minmax(0, 1fr); } }
@media (max-width: 699px) { .now { padding: 8px 12px 10px; gap: 4px; } .name { font-size: 19px; margin-right: 8px; } .what { font-size: 14px; } .clock { font-size: 16px; } .again { display: none; } }
</style>
