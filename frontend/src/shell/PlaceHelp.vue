<script setup lang="ts">
import { computed, ref } from 'vue'
import { call, type Schema } from '@/api/client'
import { textOf, useDraft } from './drafts'
import DarknessQuestions from './DarknessQuestions.vue'
import { useAttempt } from './useAsked'
import { openWhite } from './whiteLight'

/** A position from this device, from a link, or typed as one has it; the darkness by plain questions. */
const values = defineModel<Record<string, unknown>>({ required: true })
const { refusal, isBusy, attempt } = useAttempt()
const { values: typed, settle } = useDraft('position', () => ({ pasted: '' }))
const pasted = textOf(typed, 'pasted')
const complaint = ref('')
const asksDarkness = ref(false)
const HERE_MS = 20_000
const canLocate = typeof navigator !== 'undefined' && 'geolocation' in navigator
const held = computed(() => {
  const { latitude_deg, longitude_deg } = values.value
  const [latitude, longitude] = [String(latitude_deg ?? '').trim(), String(longitude_deg ?? '').trim()]
  return latitude && longitude ? `${latitude}°, ${longitude}°` : ''
})
async function read () {
  const text = pasted.value.trim()
  complaint.value = ''
  if (!text) return
  const found = await attempt(() => call<Schema<'Position'>>('/evening/position', { method: 'POST', json: { text } }))
  if (!found) return
  take(found.latitude_deg, found.longitude_deg)
  settle()
}
function take (latitude: number, longitude: number) {
  const DIGITS = 5
  values.value = { ...values.value, latitude_deg: String(Number(latitude.toFixed(DIGITS))), longitude_deg: String(Number(longitude.toFixed(DIGITS))) }
}
function locate () {
  openWhite('The browser’s question whether this page may know where you are', ask)
}
function ask () {
  isBusy.value = true
  complaint.value = ''
  navigator.geolocation.getCurrentPosition(({ coords }) => {
    isBusy.value = false
    take(coords.latitude, coords.longitude)
  }, () => {
    isBusy.value = false
    complaint.value = 'This device does not tell where it is: paste a map link, or type the position.'
  }, { timeout: HERE_MS })
}
</script>

<template>
  <div class="place-help">
    <v-btn v-if="canLocate" :loading="isBusy" @click="locate">Use this device's position</v-btn>
    <v-text-field v-model="pasted" label="Or paste a map link, or type the position" autocomplete="off"
      placeholder="48° 42′ N 8° 6′ E" persistent-placeholder
      :error-messages="refusal?.for('position')" @blur="read" @keydown.enter.prevent="read" />
    <p v-if="complaint" role="alert" class="small">{{ complaint }}</p>
    <p v-if="held" class="small" role="status">Position: <b class="figures">{{ held }}</b></p>
    <button type="button" class="link-button" :aria-expanded="asksDarkness" @click="asksDarkness = !asksDarkness">
      {{ asksDarkness ? 'Hide the three questions' : 'How dark is it there? Three questions' }}</button>
    <DarknessQuestions v-if="asksDarkness" :latitude-deg="String(values.latitude_deg ?? '')"
      @found="values = { ...values, dark_sky_class: String($event) }" />
  </div>
</template>

<style scoped>
.place-help { display: grid; gap: 8px; }
</style>
