<script setup lang="ts">
import { computed } from 'vue'
import { observations, type Observation } from '@/api/items'
import { newKey } from '@/api/client'
import { useEvening } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'
import { useNoting } from '@/stores/noting'
import { useRungs } from '@/stores/rungs'
import ChangedMeanwhile from './ChangedMeanwhile.vue'
import DraftLine from './DraftLine.vue'
import FieldForm from './FieldForm.vue'
import PictureField from './PictureField.vue'
import RefusalLine from './RefusalLine.vue'
import SideSheet from './SideSheet.vue'
import SketchPad from './SketchPad.vue'
import { keepLater } from './keepLater'
import { asText, type Field } from './fields'
import { useNotices } from './notices'
import { fromLocalStamp, isOwnTime, localStamp } from './time'
import { useAttempt } from './useAsked'
import { useItemForm } from './useItemForm'
import { useThrown } from './useThrown'

const noting = useNoting()
const evening = useEvening()
const rungs = useRungs()
const eyepiece = useEyepiece()
const notices = useNotices()
const BEFORE: readonly Field[] = [
  { key: 'object_name', label: 'What did you see?' },
  { key: 'telescope_name', label: 'Telescope', optional: true },
  { key: 'glass', label: 'Rung', optional: true },
  { key: 'magnification', label: 'Power', unit: '×' },
  { key: 'observer_name', label: 'Who looked', optional: true },
]
/** Whose time is typed: the place's, this device's where there is none, or the world's where a note never had a zone. */
const whose = computed(() => {
  if (noting.opened?.item) return isOwnTime(noting.opened.item.zone) ? 'time of the place' : 'UTC'
  return evening.evening?.site ? 'time of the place' : 'time of this device'
})
const stamp = computed<Field>(() => ({ key: 'stamp', label: `When (${whose.value})`, hint: 'Year-month-dayThour:minute.' }))
const FIRST_FIELDS = BEFORE.slice(0, 1)
const laterFields = computed(() => [stamp.value, ...BEFORE.slice(1)])
const OUTCOMES = { seen: 'Seen', glimpsed: 'Glimpsed', 'not seen': 'Not seen' } as const
/** Fields that show what is wrong with them beside themselves. */
const SHOWN = BEFORE.map(field => field.key).concat('stamp', 'observed_at_utc', 'words')
const STEADY_WORDS = ['boiling', 'restless', 'usual', 'calm', 'rock steady']
const CLEAR_WORDS = ['thick haze', 'haze', 'usual', 'clear', 'crystal']

/** What a note holds besides its fields, and what it is where nobody said. */
const NOTHING = { steadiness: null, transparency: null, words: '', site_name: '', outcome: null, sketch: [], picture_name: '', sent_key: '' }
const KEPT = Object.keys(NOTHING) as (keyof typeof NOTHING)[]
const form = useItemForm<Observation>({
  of: () => noting.opened && evening.evening ? 'observation' : null,
  fields: BEFORE,
  item: () => noting.opened?.item ?? null,
  fresh () {
    const { evening: now, zone } = evening
    const rung = eyepiece.isBetween ? rungs.selected : eyepiece.rung ?? rungs.selected
    return {
      stamp: localStamp(now?.now_utc ?? new Date().toISOString(), zone), zone, object_name: noting.target,
      telescope_name: now?.telescope?.name ?? '', glass: rung?.label ?? '', magnification: rung ? rung.magnification.toFixed(2) : '',
      steadiness: now?.choice.steadiness ?? null, transparency: now?.choice.transparency ?? null, words: '',
      site_name: now?.site?.name ?? '', observer_name: eyepiece.screen?.person?.name ?? now?.observer?.name ?? '',
      outcome: null, sketch: [], picture_name: '', sent_key: newKey(),
    }
  },
  shown: one => ({
    ...asText(BEFORE, one), stamp: localStamp(one.observed_at_utc, one.zone ?? 'UTC'), zone: one.zone ?? 'UTC',
    ...Object.fromEntries(KEPT.map(key => [key, one[key] ?? NOTHING[key]])),
  }),
  besides: values => ({
    observed_at_utc: fromLocalStamp(String(values.stamp), String(values.zone)), zone: values.zone,
    ...Object.fromEntries(KEPT.map(key => [key, values[key] ?? NOTHING[key]])),
  }),
  store: (id, item) => keepLater(id, item, observations.save),
})
const { values, isDraft, refusal, isSaving, differences } = form
const removing = useAttempt()
const id = computed(() => noting.opened?.item?.id ?? null)
const title = computed(() => id.value ? 'Change an observation' : 'Note an observation')
const steadiness = computed(() => values.value.steadiness as number | null)
const transparency = computed(() => values.value.transparency as number | null)
function set (key: string, value: unknown) {
  values.value = { ...values.value, [key]: value }
}

async function closeWith (saving: Promise<Observation | undefined>) {
  const before = noting.opened?.item ?? null
  const stored = await saving
  if (!stored) return
  noting.close()
  if (!stored.id) notices.say('Kept here; it is told as soon as the application answers.')
  else if (evening.evening?.rehearsal) notices.say('Rehearsed: nothing of it is kept.')
  else if (!before) notices.say('Noted.')
  else notices.say('Changed.', () => observations.change(stored.id ?? 0, { ...before, version: stored.version }))
}
async function remove () {
  const gone = id.value
  if (!gone) return
  await removing.once(() => observations.remove({ id: gone, version: noting.opened?.item?.version }))
  if (removing.refusal.value) return
  form.forget()
  noting.close()
  notices.say('The observation is out of the journal.', () => observations.restore(gone))
}
/** What was begun is thrown away, and offered back; what was only looked at is closed. */
const throwAway = useThrown(() => {
  const item = noting.opened?.item ?? null
  const bringBack = form.forget()
  noting.close()
  return () => {
    bringBack()
    if (item) noting.edit(item)
    else noting.begin()
  }
})
function discard () {
  if (isDraft.value) throwAway()
  else noting.close()
}
function close () {
  if (isDraft.value) notices.say('Kept as a draft: the note opens again as it is.')
  noting.close()
}
</script>

<template>
  <SideSheet :model-value="noting.opened !== null" :title="title" @update:model-value="close">
    <form v-if="noting.opened && evening.evening" id="note-form" class="form" novalidate
      @submit.prevent="closeWith(form.save())">
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <FieldForm v-model="values" :fields="FIRST_FIELDS" :refusal="refusal" />
      <v-btn-toggle role="group"
        :model-value="values.outcome" divided variant="outlined" aria-label="Was it seen?" class="outcome"
        @update:model-value="set('outcome', $event ?? null)">
        <v-btn v-for="(word, name) in OUTCOMES" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <v-textarea
        :model-value="values.words as string" label="In your own words" rows="3" auto-grow
        :error-messages="refusal?.for('words')"
        @update:model-value="set('words', $event)"
      />
      <details :open="(values.sketch as unknown[])?.length > 0 || undefined">
        <summary>Sketch it</summary>
        <SketchPad :model-value="(values.sketch as never[]) ?? []" @update:model-value="set('sketch', $event)" />
      </details>
      <PictureField :model-value="String(values.picture_name ?? '')"
        @update:model-value="set('picture_name', $event)" />
      <FieldForm v-model="values" :fields="laterFields" :refusal="refusal" />
      <p v-if="refusal?.for('observed_at_utc')" class="small" role="alert">{{ refusal.for('observed_at_utc') }}</p>
      <fieldset class="steady">
        <legend>Steadiness of the air: {{ steadiness ? STEADY_WORDS[steadiness - 1] : 'not said' }}</legend>
        <v-btn-toggle role="group" :model-value="steadiness" divided variant="outlined"
          @update:model-value="set('steadiness', $event ?? null)">
          <v-btn v-for="n in 5" :key="n" :value="n" :aria-label="`${n} of 5, ${STEADY_WORDS[n - 1]}`">{{ n }}</v-btn>
        </v-btn-toggle>
      </fieldset>
      <fieldset class="steady">
        <legend>Transparency of the sky: {{ transparency ? CLEAR_WORDS[transparency - 1] : 'not said' }}</legend>
        <v-btn-toggle role="group" :model-value="transparency" divided variant="outlined"
          @update:model-value="set('transparency', $event ?? null)">
          <v-btn v-for="n in 5" :key="n" :value="n" 
            :aria-label="`clear ${n} of 5, ${CLEAR_WORDS[n - 1]}`">{{ n }}</v-btn>
        </v-btn-toggle>
      </fieldset>
    </form>
    <ChangedMeanwhile :differences="differences" @mine="closeWith(form.keepMine())" @theirs="form.takeTheirs()" />
    <RefusalLine v-if="!differences.length" :refusal="refusal ?? removing.refusal.value" :beside="SHOWN" />
    <template #actions>
      <v-btn type="submit" form="note-form" color="primary" variant="flat" :loading="isSaving">Save</v-btn>
      <v-btn v-if="id" @click="remove">Delete</v-btn>
      <v-btn variant="text" @click="discard">Discard</v-btn>
    </template>
  </SideSheet>
</template>

<style scoped>
.form { display: grid; gap: 18px; }
.outcome { width: 100%; } .outcome :deep(.v-btn) { flex: 1; min-height: 52px; }
summary { cursor: pointer; min-height: 48px; display: flex; align-items: center; font-weight: 600; color: var(--jade); }
.steady { border: 0; padding: 0; margin: 0; display: grid; gap: 8px; }
</style>
