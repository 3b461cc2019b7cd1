<script setup lang="ts">
import { computed } from 'vue'
import { call } from '@/api/client'
import { textOf, useDraft } from '@/shell/drafts'
import HonestMark from '@/shell/HonestMark.vue'
import NumberField from '@/shell/NumberField.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { clockTime, fromLocalStamp, localStamp } from '@/shell/time'
import { useAttempt } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'

/** The same evening by day, faster; nothing of it is kept. */
const isOpen = defineModel<boolean>({ required: true })
const evening = useEvening()
const { refusal, attempt, once, isBusy } = useAttempt()
const { values, settle } = useDraft('rehearsal', () => ({ rate: '20', from: '' }))
const [rate, from] = [textOf(values, 'rate'), textOf(values, 'from')]
const RATES = ['1', '10', '20', '60', '120']
const isRunning = computed(() => !!evening.evening?.rehearsal)
const sunset = computed(() => clockTime(evening.evening?.night?.sunset_utc, evening.zone))
/** The typed time of the evening: before noon it is the morning after. */
function fromUtc (): string | null {
  const text = from.value.trim()
  const night = evening.evening?.night
  if (!text || !night) return null
  const day = Number(text.split(':')[0]) < 12 ? new Date(Date.parse(`${night.date}T12:00:00Z`) + 86_400_000).toISOString().slice(0, 10) : night.date
  return fromLocalStamp(`${day}T${text.padStart(5, '0')}`, evening.zone)
}
async function begin () {
  await once(() => call<void>('/rehearsal', { method: 'POST', json: { from_utc: fromUtc(), rate: rate.value } }))
  await evening.refresh()
  if (refusal.value) return
  settle()
  isOpen.value = false
}
async function pace () {
  await attempt(() => call<void>('/rehearsal/pace', { method: 'PUT', json: { rate: rate.value } }))
}
async function end () {
  await once(() => call<void>('/rehearsal', { method: 'DELETE' }))
  await evening.refresh()
  if (!refusal.value) isOpen.value = false
}
const started = computed(() => localStamp(evening.evening?.now_utc ?? new Date().toISOString(), evening.zone).slice(11))
</script>

<template>
  <SideSheet v-model="isOpen" title="Rehearse the evening">
    <p>The evening of the chosen date on a clock of its own, with simulated weather. It plays on a copy: nothing that is
      pressed or written in it reaches the evening or the journal.</p>
    <p v-if="isRunning"><HonestMark words="rehearsal" /> It is {{ started }} in it.</p>
    <div class="form">
      <NumberField v-model="rate" label="How fast" unit="×" hint="How many times as fast as it goes outside."
        :error-messages="refusal?.for('rate')" />
      <v-btn-toggle role="group" v-model="rate" divided variant="outlined" aria-label="How fast">
        <v-btn v-for="one in RATES" :key="one" :value="one">{{ one }}×</v-btn>
      </v-btn-toggle>
      <v-text-field v-if="!isRunning" v-model="from" label="From (time of the place)" :placeholder="sunset"
        hint="Empty begins at sunset." persistent-hint :error-messages="refusal?.for('from_utc')" />
      <RefusalLine :refusal="refusal" :beside="['rate', 'from_utc']" />
    </div>
    <template #actions>
      <template v-if="isRunning">
        <v-btn color="primary" variant="flat" :loading="isBusy" @click="end">End the rehearsal</v-btn>
        <v-btn @click="pace">Go on at this pace</v-btn>
      </template>
      <v-btn v-else color="primary" variant="flat" :loading="isBusy" @click="begin">Begin</v-btn>
    </template>
  </SideSheet>
</template>

<style scoped>
.form { display: grid; gap: 14px; }
</style>
