<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import NightAir from '@/drawings/NightAir.vue'
import ImportDialog from '@/shell/ImportDialog.vue'
import { clockTime } from '@/shell/time'
import { toldFile } from '@/shell/toldFile'
import { useEvening } from '@/stores/evening'
import { useWeather } from '@/stores/weather'
import HourForm from './HourForm.vue'
import OutlookLine from './OutlookLine.vue'

/** What the night's air is good for, hour by hour, and the ways to say better. */
const evening = useEvening()
const weather = useWeather()
onMounted(weather.load)
const importIsOpen = ref(false)
const chosenUtc = shallowRef<string | null>(null)
const toldHours = toldFile(count => `Use these ${count} hours`)
const HINT = 'CSV with one hour a row, or the JSON document: save the hours once to see the form. What a file leaves out stays unknown.'
const HOUR_MS = 3_600_000
/** The hours one may look in, with one before and one after. */
const hours = computed(() => {
  const all = weather.outlook?.hours ?? []
  const dark = all.filter(one => one.is_dark)
  const [first, last] = [dark[0], dark[dark.length - 1]]
  if (!first || !last) return all
  const [from, to] = [Date.parse(first.hour.hour_utc) - HOUR_MS, Date.parse(last.hour.hour_utc) + HOUR_MS]
  return all.filter(one => Date.parse(one.hour.hour_utc) >= from && Date.parse(one.hour.hour_utc) <= to)
})
const chosen = computed(() => hours.value.find(one => one.hour.hour_utc === chosenUtc.value) ?? null)
watch(hours, list => {
  if (!list.some(one => one.hour.hour_utc === chosenUtc.value)) chosenUtc.value = null
})
</script>

<template>
  <div class="weather">
    <p v-if="weather.refusal" role="alert">{{ weather.refusal.words }}</p>
    <v-progress-linear v-else-if="!weather.outlook" indeterminate color="primary" aria-label="Reading the hours" />
    <template v-else>
      <section class="judged scroll-y" aria-label="What the night is good for">
        <OutlookLine :outlook="weather.outlook" class="big" />
        <ul class="reasons" aria-label="Reasons">
          <li v-for="one in weather.outlook.reasons" :key="one.kind" :class="{ minds: one.minds }">{{ one.words }}</li>
        </ul>
        <NightAir v-model="chosenUtc" :hours="hours" :zone="evening.zone" />
        <p class="small quiet">The bar under an hour is full where it is clear, broken where there are gaps. Air and dew
          point so near that dew forms are filled between; a filled pennant shakes this telescope. Look up before you
          carry anything out.</p>
      </section>
      <aside class="said scroll-y" aria-label="Say it better">
        <HourForm v-if="chosen" :key="chosen.hour.hour_utc" :judged="chosen" @close="chosenUtc = null" />
        <template v-else>
          <h2>Say it better</h2>
          <p class="quiet">Choose an hour of the drawing and type what you see or hear of it. What you do not type stays
            as it is.</p>
        </template>
        <h2>Hours from a file</h2>
        <ul v-if="weather.answer?.files.length" class="files">
          <li v-for="one in weather.answer.files" :key="one.id ?? 0"><b>{{ one.name || 'A file' }}</b>
            <span class="small quiet">{{ one.hours }} hours, read {{ clockTime(one.read_at_utc, evening.zone) }}</span>
            <button type="button" class="link-button" @click="weather.forget(one.id!)">take away</button></li>
        </ul>
        <p v-else class="quiet small">None. The simulated hours are for practice: nobody measured them.</p>
        <div class="tools">
          <v-btn @click="importIsOpen = true">Read a file …</v-btn>
          <a href="/api/plan/weather/hours.csv" download>Save as CSV</a>
          <a href="/api/plan/weather/hours.json" download>as JSON</a>
        </div>
      </aside>
      <ImportDialog v-model="importIsOpen" title="Hours of weather from a file" :told="toldHours"
        preview="/plan/weather/file-preview" store="/plan/weather/file" :hint="HINT" />
    </template>
  </div>
</template>

<style scoped>
.weather { display: grid; grid-template-columns: minmax(0, 1fr) 340px; gap: 24px; min-height: 0; }
.judged, .said { min-height: 0; display: flex; flex-direction: column; gap: 10px; padding-bottom: 16px; }
.said { border-left: 1px solid var(--line); padding-left: 20px; }
.big { font-size: 20px; flex: none; }
.reasons { list-style: none; margin: 0; padding: 0; display: grid; gap: 3px; flex: none; }
.reasons li { border-left: 5px solid var(--jade); padding-left: 10px; } .reasons .minds { border-left-color: var(--brass); }
.files { list-style: none; margin: 0; padding: 0; }
.files li { display: flex; gap: 4px 10px; flex-wrap: wrap; align-items: center; }
.tools { display: flex; gap: 14px; align-items: center; flex-wrap: wrap; }
a { min-height: 48px; display: inline-flex; align-items: center; }
@media (max-width: 1023px) { .weather { display: block; overflow-y: auto; } .said { border-left: 0; padding: 12px 0; } }
</style>
