<script setup lang="ts">
import HonestMark from './HonestMark.vue'
import { computed, ref, watch } from 'vue'
import { observers, sites, telescopes } from '@/api/items'
import PickOrAdd from './PickOrAdd.vue'
import PlaceHelp from './PlaceHelp.vue'
import RefusalLine from './RefusalLine.vue'
import SideSheet from './SideSheet.vue'
import { SITE_FIELDS } from './siteFields'
import { useEvening, type EveningChoice } from '@/stores/evening'
import { useZones } from '@/stores/zones'
import type { Field } from './fields'
import { useAttempt } from './useAsked'
import { useParts } from './useParts'

const isOpen = defineModel<boolean>({ required: true })
const store = useEvening()
const { refusal, attempt } = useAttempt()
const date = ref('')
/** What there is to choose from, each by itself. */
const { answer: found, refusal: unread, load } = useParts({
  sites: { title: 'places', ask: () => sites.list() },
  observers: { title: 'people', ask: () => observers.list() },
  telescopes: { title: 'telescopes', ask: () => telescopes.list() },
})
const stored = computed(() => found.value && { sites: [], observers: [], telescopes: [], ...found.value })

const OBSERVER_FIELDS: readonly Field[] = [
  { key: 'name', label: 'Name' },
  { key: 'age_years', label: 'Age (if known)', unit: 'years' },
  { key: 'eye_pupil_mm', label: 'Eye pupil in the dark (if measured)', unit: 'mm' },
  {
    key: 'glasses', label: 'Glasses', options: [
      { title: 'none', value: 'none' },
      { title: 'for short or long sight', value: 'sight' },
      { title: 'for astigmatism too', value: 'astigmatism' },
    ],
  },
  { key: 'sight_diopters', label: 'Sight (if known)', unit: 'dpt', hint: 'Negative for short sight.' },
  { key: 'eye_height_mm', label: 'Eye height (if known)', unit: 'mm', measure: 'hand' },
  {
    key: 'practice', label: 'Practice with faint things', options: [
      { title: 'not said', value: '' },
      { title: 'first nights', value: 'first' },
      { title: 'some', value: 'some' },
      { title: 'much', value: 'much' },
    ],
  },
  { key: 'field_factor', label: 'Light wanted (from the notes)', unit: '×', hint: 'Of a perfect eye; empty goes by the practice.' },
]
const SCHOOLS = [
  { value: 'detail', title: '1 mm: all detail is visible by there' },
  { value: 'comfort', title: '0.7 mm: comfortable limit' },
  { value: 'steady', title: '0.5 mm: planets and doubles, steady air' },
]
const STEADY = ['boiling', 'restless', 'usual', 'calm', 'rock steady']
const LENGTHS = [{ value: 'metric', title: 'Metres, centimetres, millimetres' }, { value: 'inch', title: 'Feet and inches' }]
const TEMPERATURES = [{ value: 'celsius', title: 'Degrees Celsius' }, { value: 'fahrenheit', title: 'Degrees Fahrenheit' }]
const steadiness = computed(() => store.evening?.choice.steadiness ?? null)
const zones = useZones()

watch(isOpen, async now => {
  if (!now) return
  // what was refused is still there to be mended
  if (refusal.value?.for('date')) return load()
  refusal.value = null
  date.value = store.evening?.choice.date ?? ''
  await load()
}, { immediate: true })
/** The first place is all that was missing: back to where it was asked for. */
function leaveWithTheFirst () {
  if (!stored.value?.sites.length) isOpen.value = false
}
const choose = (change: Partial<EveningChoice>) => attempt(() => store.choose(change))
function shiftDate (days: number) {
  const from = store.evening?.night?.date ?? date.value
  const next = new Date(`${from}T12:00:00Z`)
  next.setUTCDate(next.getUTCDate() + days)
  date.value = next.toISOString().slice(0, 10)
  void choose({ date: date.value })
}
</script>

<template>
  <SideSheet v-model="isOpen" title="This evening">
    <template v-if="stored">
      <PickOrAdd
        :model-value="store.evening?.site?.id ?? null" label="Place" one="place" :items="sites" :stored="stored.sites"
        :fields="SITE_FIELDS" :fresh="{ zone: zones.own }"
        @update:model-value="choose({ site_id: $event })" @stored="leaveWithTheFirst"
      ><template #help="{ values, set }"><PlaceHelp :model-value="values" @update:model-value="set" /></template>
      </PickOrAdd>
      <fieldset class="part">
        <legend>Date</legend>
        <form class="date" @submit.prevent="choose({ date: date.trim() || null })">
          <v-btn aria-label="One evening earlier" @click="shiftDate(-1)">−</v-btn>
          <v-text-field v-model="date" label="Evening of" placeholder="tonight" persistent-placeholder
            :error-messages="refusal?.for('date')" @blur="choose({ date: date.trim() || null })" />
          <v-btn aria-label="One evening later" @click="shiftDate(1)">+</v-btn>
        </form>
        <button v-if="store.evening?.choice.date" type="button" class="link-button"
          @click="date = ''; choose({ date: null })">Back to tonight</button>
        <p v-if="store.clockWords" class="quiet"><HonestMark :words="store.clockWords" /> The Sun, the night and every
          check go by it; it says nothing of the Sun outside.</p>
      </fieldset>
      <v-select
        v-if="stored.telescopes.length" label="Telescope" :model-value="store.evening?.telescope?.id"
        :items="stored.telescopes" item-title="name" item-value="id"
        @update:model-value="choose({ telescope_id: $event })"
      />
      <PickOrAdd
        :model-value="store.evening?.observer?.id ?? null" label="Whose eye" one="person" :items="observers"
        :stored="stored.observers" :fields="OBSERVER_FIELDS" :fresh="{ glasses: 'none', practice: '' }"
        @update:model-value="choose({ observer_id: $event })"
      />
      <fieldset v-if="store.evening" class="part">
        <legend>Steadiness of this evening's air: {{ steadiness ? STEADY[steadiness - 1] : 'not judged yet' }}</legend>
        <v-btn-toggle role="group" :model-value="steadiness" divided variant="outlined"
          @update:model-value="choose({ steadiness: $event ?? null })">
          <v-btn v-for="n in 5" :key="n" :value="n" :aria-label="`${n} of 5, ${STEADY[n - 1]}`">{{ n }}</v-btn>
        </v-btn-toggle>
      </fieldset>
      <v-select
        v-if="store.evening" label="Highest power by exit pupil" :model-value="store.evening.choice.school"
        :items="SCHOOLS"
        @update:model-value="choose({ school: $event })"
      />
      <div v-if="store.evening" class="units">
        <v-select label="Lengths" :model-value="store.evening.choice.length_unit" :items="LENGTHS"
          @update:model-value="choose({ length_unit: $event })" />
        <v-select label="Temperatures" :model-value="store.evening.choice.temperature_unit" :items="TEMPERATURES"
          @update:model-value="choose({ temperature_unit: $event })" />
      </div>
    </template>
    <v-progress-linear v-else-if="!unread" indeterminate color="primary" aria-label="Reading places and people" />
    <RefusalLine :refusal="refusal ?? unread" :beside="['date']" />
  </SideSheet>
</template>

<style scoped>
.part { border: 0; padding: 0; margin: 0; display: grid; gap: 8px; }
legend { font-weight: 700; padding-bottom: 6px; }
.units { display: grid; gap: 16px; }
.date { display: flex; gap: 8px; align-items: start; }
.date .v-btn { min-width: 48px; }
</style>
