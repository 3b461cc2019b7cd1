<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Refusal } from '@/api/client'
import { observations } from '@/api/items'
import FieldForm from './FieldForm.vue'
import RefusalLine from './RefusalLine.vue'
import SideSheet from './SideSheet.vue'
import { asTyped, type Field } from './fields'
import { useNotices } from './notices'
import { useNoting, type Draft } from './noting'
import { fromLocalStamp } from './time'

const noting = useNoting()
const notices = useNotices()
const refusal = ref<Refusal | null>(null)
const isSaving = ref(false)
const BEFORE: readonly Field[] = [
  { key: 'object_name', label: 'What did you see?' },
  { key: 'stamp', label: 'When (time of the place)', hint: 'Year-month-dayThour:minute.' },
  { key: 'telescope_name', label: 'Telescope', optional: true },
  { key: 'glass', label: 'Rung', optional: true },
  { key: 'magnification', label: 'Power', unit: '×' },
]
/** Fields that show what is wrong with them beside themselves. */
const SHOWN = [...BEFORE.map(field => field.key), 'observed_at_utc', 'words']
const STEADY_WORDS = ['boiling', 'restless', 'usual', 'calm', 'rock steady']
const title = computed(() => noting.draft?.id ? 'Change an observation' : 'Note an observation')
watch(() => noting.draft === null, () => { refusal.value = null })

async function save () {
  const draft = noting.draft
  if (!draft) return
  isSaving.value = true
  const { stamp, id, zone, steadiness, words, site_name } = draft
  const typed = asTyped(BEFORE.filter(field => field.key !== 'stamp'), { ...draft })
  const item = { ...typed, observed_at_utc: fromLocalStamp(stamp, zone), zone, steadiness, words, site_name }
  try {
    await (id === null ? observations.add(item) : observations.change(id, item))
    noting.draft = null
    noting.version++
    notices.say(id === null ? 'Noted.' : 'Changed.')
  } catch (error) {
    refusal.value = error as Refusal
  } finally {
    isSaving.value = false
  }
}
async function remove () {
  const id = noting.draft?.id
  if (!id) return
  try {
    await observations.remove(id)
  } catch (error) {
    refusal.value = error as Refusal
    return
  }
  noting.draft = null
  noting.version++
  notices.say('The observation is out of the journal.', async () => {
    await observations.restore(id)
    noting.version++
  })
}
</script>

<template>
  <SideSheet :model-value="noting.draft !== null" :title="title" @update:model-value="noting.draft = null">
    <form v-if="noting.draft" id="note-form" class="form" novalidate @submit.prevent="save">
      <FieldForm :model-value="{ ...noting.draft }" :fields="BEFORE" :refusal="refusal" @update:model-value="noting.draft = $event as unknown as Draft" />
      <p v-if="refusal?.for('observed_at_utc')" class="small" role="alert">{{ refusal.for('observed_at_utc') }}</p>
      <fieldset class="steady">
        <legend>Steadiness of the air: {{ noting.draft.steadiness ? STEADY_WORDS[noting.draft.steadiness - 1] : 'not said' }}</legend>
        <v-btn-toggle v-model="noting.draft.steadiness" divided variant="outlined">
          <v-btn v-for="n in 5" :key="n" :value="n" :aria-label="`${n} of 5, ${STEADY_WORDS[n - 1]}`">{{ n }}</v-btn>
        </v-btn-toggle>
      </fieldset>
      <v-textarea v-model="noting.draft.words" label="In your own words" rows="5" auto-grow :error-messages="refusal?.for('words')" />
    </form>
    <RefusalLine :refusal="refusal" :beside="SHOWN" />
    <template #actions>
      <v-btn type="submit" form="note-form" color="primary" variant="flat" :loading="isSaving">Save</v-btn>
      <v-btn v-if="noting.draft?.id" @click="remove">Delete</v-btn>
      <v-btn variant="text" @click="noting.draft = null">Discard</v-btn>
    </template>
  </SideSheet>
</template>

<style scoped>
.form { display: grid; gap: 18px; }
.steady { border: 0; padding: 0; margin: 0; display: grid; gap: 8px; }
</style>
