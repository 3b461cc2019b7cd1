<script setup lang="ts">
import { computed } from 'vue'
import { observations, type Observation } from '@/api/items'
import { useEvening } from '@/stores/evening'
import { useNoting } from '@/stores/noting'
import { useRungs } from '@/stores/rungs'
import ChangedMeanwhile from './ChangedMeanwhile.vue'
import DraftLine from './DraftLine.vue'
import FieldForm from './FieldForm.vue'
import RefusalLine from './RefusalLine.vue'
import SideSheet from './SideSheet.vue'
import { asText, type Field } from './fields'
import { useNotices } from './notices'
import { fromLocalStamp, localStamp } from './time'
import { useAttempt } from './useAsked'
import { useItemForm } from './useItemForm'

const noting = useNoting()
const evening = useEvening()
const rungs = useRungs()
const notices = useNotices()
const BEFORE: readonly Field[] = [
  { key: 'object_name', label: 'What did you see?' },
  { key: 'telescope_name', label: 'Telescope', optional: true },
  { key: 'glass', label: 'Rung', optional: true },
  { key: 'magnification', label: 'Power', unit: '×' },
]
const STAMP: Field = { key: 'stamp', label: 'When (time of the place)', hint: 'Year-month-dayThour:minute.' }
const SHOWN_FIELDS = [BEFORE[0]!, STAMP, ...BEFORE.slice(1)]
/** Fields that show what is wrong with them beside themselves. */
const SHOWN = [...SHOWN_FIELDS.map(field => field.key), 'observed_at_utc', 'words']
const STEADY_WORDS = ['boiling', 'restless', 'usual', 'calm', 'rock steady']

const form = useItemForm<Observation>({
  of: () => noting.opened && evening.evening ? 'observation' : null,
  fields: BEFORE,
  item: () => noting.opened?.item ?? null,
  fresh () {
    const { evening: now, zone } = evening
    const rung = rungs.selected
    return {
      stamp: localStamp(now?.now_utc ?? new Date().toISOString(), zone), zone, object_name: noting.target,
      telescope_name: now?.telescope?.name ?? '', glass: rung?.label ?? '', magnification: rung ? rung.magnification.toFixed(2) : '',
      steadiness: now?.choice.steadiness ?? null, words: '', site_name: now?.site?.name ?? '',
    }
  },
  shown: one => ({
    ...asText(BEFORE, one), stamp: localStamp(one.observed_at_utc, one.zone ?? 'UTC'), zone: one.zone ?? 'UTC',
    steadiness: one.steadiness ?? null, words: one.words ?? '', site_name: one.site_name ?? '',
  }),
  besides: ({ stamp, zone, steadiness, words, site_name }) => ({
    observed_at_utc: fromLocalStamp(String(stamp), String(zone)), zone, steadiness, words, site_name,
  }),
  store: observations.save,
})
const { values, isDraft, refusal, isSaving, differences } = form
const removing = useAttempt()
const id = computed(() => noting.opened?.item?.id ?? null)
const title = computed(() => id.value ? 'Change an observation' : 'Note an observation')
const steadiness = computed(() => values.value.steadiness as number | null)
function set (key: string, value: unknown) {
  values.value = { ...values.value, [key]: value }
}

async function closeWith (saving: Promise<Observation | undefined>) {
  const isNew = id.value === null
  if (!await saving) return
  noting.close()
  notices.say(isNew ? 'Noted.' : 'Changed.')
}
async function remove () {
  const gone = id.value
  if (!gone) return
  await removing.attempt(() => observations.remove(gone))
  if (removing.refusal.value) return
  form.startOver()
  noting.close()
  notices.say('The observation is out of the journal.', () => observations.restore(gone))
}
function discard () {
  form.startOver()
  noting.close()
}
</script>

<template>
  <SideSheet :model-value="noting.opened !== null" :title="title" @update:model-value="noting.close()">
    <form v-if="noting.opened && evening.evening" id="note-form" class="form" novalidate
      @submit.prevent="closeWith(form.save())">
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <FieldForm v-model="values" :fields="SHOWN_FIELDS" :refusal="refusal" />
      <p v-if="refusal?.for('observed_at_utc')" class="small" role="alert">{{ refusal.for('observed_at_utc') }}</p>
      <fieldset class="steady">
        <legend>Steadiness of the air: {{ steadiness ? STEADY_WORDS[steadiness - 1] : 'not said' }}</legend>
        <v-btn-toggle :model-value="steadiness" divided variant="outlined"
          @update:model-value="set('steadiness', $event ?? null)">
          <v-btn v-for="n in 5" :key="n" :value="n" :aria-label="`${n} of 5, ${STEADY_WORDS[n - 1]}`">{{ n }}</v-btn>
        </v-btn-toggle>
      </fieldset>
      <v-textarea
        :model-value="values.words as string" label="In your own words" rows="5" auto-grow
        :error-messages="refusal?.for('words')"
        @update:model-value="set('words', $event)"
      />
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
.steady { border: 0; padding: 0; margin: 0; display: grid; gap: 8px; }
</style>
