<script setup lang="ts">
import { computed, ref } from 'vue'
import { call, type Schema } from '@/api/client'
import { sites } from '@/api/items'
import ChangedMeanwhile from '@/shell/ChangedMeanwhile.vue'
import DraftLine from '@/shell/DraftLine.vue'
import FieldForm from '@/shell/FieldForm.vue'
import NumberField from '@/shell/NumberField.vue'
import PlaceHelp from '@/shell/PlaceHelp.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import { asText } from '@/shell/fields'
import { useNotices } from '@/shell/notices'
import { SITE_FIELDS } from '@/shell/siteFields'
import { useAttempt } from '@/shell/useAsked'
import { useItemForm } from '@/shell/useItemForm'
import { useEvening } from '@/stores/evening'
import SkylineEditor from './SkylineEditor.vue'

type Site = Schema<'Site'>
type Dome = Record<keyof Schema<'LightDome'>, string>
const evening = useEvening()
const notices = useNotices()
const site = computed(() => evening.evening?.site ?? null)
const DOME = [
  { key: 'azimuth_deg', label: 'Direction', unit: '°' },
  { key: 'width_deg', label: 'Width', unit: '°' },
  { key: 'brighter_mag', label: 'Brighter 20° up', unit: 'mag' },
] as const
const form = useItemForm<Site>({
  of: () => site.value && 'place',
  fields: SITE_FIELDS,
  item: site,
  fresh: () => ({}),
  shown: item => ({ ...asText(SITE_FIELDS, item), skyline: item.skyline ?? [], domes: (item.light_domes ?? []).map(domeText) }),
  besides: values => ({ skyline: values.skyline, light_domes: values.domes }),
  store: (id, item) => sites.save(id, item),
})
const { values, isDraft, refusal, isSaving, differences } = form
const skyline = computed({
  get: () => (values.value.skyline ?? []) as readonly Schema<'SkylinePoint'>[],
  set: points => { values.value = { ...values.value, skyline: points } },
})
const domes = computed({
  get: () => (values.value.domes ?? []) as readonly Dome[],
  set: list => { values.value = { ...values.value, domes: list } },
})
const drawnDomes = computed(() => domes.value.map(dome => ({
  azimuth_deg: Number(dome.azimuth_deg) || 0, width_deg: Number(dome.width_deg) || 0, brighter_mag: Number(dome.brighter_mag) || 0,
})))
function domeText (dome: Schema<'LightDome'>): Dome {
  return { azimuth_deg: String(dome.azimuth_deg), width_deg: String(dome.width_deg), brighter_mag: String(dome.brighter_mag) }
}
const setDome = (n: number, key: keyof Dome, value: string) => { domes.value = domes.value.map((one, m) => m === n ? { ...one, [key]: value } : one) }

const reading = useAttempt()
const found = ref<Schema<'FoundPlaces'> | null>(null)
/** What is typed of the line is a draft like the rest of the form; until somebody types, it is what is drawn. */
const typed = computed({
  get: () => String(values.value.typed ?? skyline.value.map(point => `${point.azimuth_deg}, ${point.altitude_deg}`).join('\n')),
  set: text => { values.value = { ...values.value, typed: text } },
})
const isTyped = computed(() => values.value.typed != null)
/** Whether the line is open for typing: as somebody wished, else where something typed is left. */
const wished = ref<boolean | null>(null)
const asksTyped = computed(() => wished.value ?? isTyped.value)
async function takeLine (body: Blob) {
  const read = await reading.attempt(() => call<Schema<'SkylineRead'>>('/plan/place/skyline', { method: 'POST', csv: body }))
  if (read) {
    values.value = { ...values.value, skyline: read.skyline, typed: null }
    wished.value = null
  }
  return read
}
const useTyped = () => takeLine(new Blob([typed.value]))
async function takePlaces (body: Blob) {
  found.value = await reading.attempt(() => call<Schema<'FoundPlaces'>>('/plan/place/positions', { method: 'POST', csv: body })) ?? null
  if (found.value?.places.length === 1) takePlace(found.value.places[0]!)
}
function takePlace (one: Schema<'FoundPlace'>) {
  found.value = null
  values.value = {
    ...values.value, latitude_deg: String(one.latitude_deg), longitude_deg: String(one.longitude_deg),
    ...one.elevation_m === null ? {} : { elevation_m: String(one.elevation_m) },
  }
}
function picked (event: Event, take: (body: Blob) => Promise<unknown>) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void take(file)
}
/** What is typed of the line belongs to the place: it is read first, and what cannot be read is not passed over. */
async function saveAll () {
  if (!isTyped.value || await useTyped()) await save(form.save())
  else wished.value = true
}
async function save (saving: Promise<Site | undefined>) {
  if (await saving) {
    await evening.refresh()
    notices.say('The place is kept; tonight is worked out anew.')
  }
}
</script>

<template>
  <form class="place scroll-y" novalidate @submit.prevent="saveAll">
    <section class="drawn">
      <h2>Your skyline</h2>
      <p class="quiet small">Press to set a point, drag it where a roof or tree ends. What it hides is hidden
        everywhere.</p>
      <SkylineEditor v-model="skyline" :domes="drawnDomes" />
      <div class="tools">
        <v-btn :aria-expanded="asksTyped" @click="wished = !asksTyped">Type the points</v-btn>
        <label class="file v-btn v-btn--variant-outlined">Read a CSV<input type="file" accept=".csv,text/csv"
          class="sr-only"
          @change="picked($event, takeLine)"></label>
        <a href="/api/plan/place/skyline.csv" download>Save as CSV</a>
        <v-btn v-if="skyline.length" variant="text" @click="skyline = []">Clear it</v-btn>
      </div>
      <div v-if="asksTyped" class="typed">
        <v-textarea v-model="typed" label="Azimuth and altitude in degrees, a point a line" rows="5"
          :error-messages="reading.refusal.value?.words" />
        <v-btn @click="useTyped">Use these points</v-btn>
      </div>
      <p v-else-if="reading.refusal.value" role="alert">{{ reading.refusal.value.words }}</p>
      <h2>Glow of towns</h2>
      <div v-for="(dome, n) in domes" :key="n" class="dome">
        <NumberField v-for="field in DOME" :key="field.key" :model-value="dome[field.key]" :label="field.label"
          :unit="field.unit" :error-messages="refusal?.for(`light_domes.${n}.${field.key}`)"
          @update:model-value="setDome(n, field.key, String($event))" />
        <v-btn variant="text" :aria-label="`Take away glow ${n + 1}`" @click="domes = domes.filter((_, m) => m !==
          n)">Take away</v-btn>
      </div>
      <button type="button" class="link-button"
        @click="domes = [...domes, { azimuth_deg: '180', width_deg: '40', brighter_mag: '1' }]">Add the glow of a
          town</button>
    </section>
    <section class="typed-fields">
      <h2>{{ site?.name }}</h2>
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <PlaceHelp :model-value="values" @update:model-value="values = $event" />
      <label class="file v-btn v-btn--variant-outlined">Position from a GPX or GeoJSON file<input type="file"
        accept=".gpx,.geojson,.json,application/gpx+xml" class="sr-only" @change="picked($event, takePlaces)"></label>
      <ul v-if="found" class="found">
        <li v-for="(one, n) in found.places" :key="n"><button type="button" class="link-button"
          @click="takePlace(one)">{{
          one.name || `Point ${n + 1}` }}, {{ one.latitude_deg.toFixed(4) }}°, {{ one.longitude_deg.toFixed(4)
            }}°</button></li>
      </ul>
      <FieldForm v-model="values" :fields="SITE_FIELDS" :refusal="refusal" />
      <ChangedMeanwhile :differences="differences" @mine="save(form.keepMine())" @theirs="form.takeTheirs()" />
      <RefusalLine v-if="!differences.length" :refusal="refusal" :beside="SITE_FIELDS.map(field => field.key)" />
    </section>
    <div class="tools save">
      <v-btn type="submit" color="primary" variant="flat" :loading="isSaving">Save this place</v-btn>
      <a href="/api/plan/place/places.gpx" download>All places as GPX</a>
      <a href="/api/plan/place/places.geojson" download>as GeoJSON</a>
    </div>
  </form>
</template>

<style scoped>
.place { display: grid; grid-template-columns: minmax(0, 1fr) 380px; gap: 24px; padding-bottom: 16px; align-items: start; }
section { display: grid; gap: 12px; }
.tools { display: flex; gap: 14px; align-items: center; flex-wrap: wrap; }
.file { display: inline-flex; align-items: center; padding: 0 16px; border-radius: 4px; border: 1px solid var(--edge); min-height: 48px; cursor: pointer; }
.file:focus-within { outline: 3px solid var(--jade); }
.dome { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)) auto; gap: 10px; align-items: start; }
.typed { display: grid; gap: 8px; justify-items: start; } .typed > :first-child { width: 100%; }
.found { list-style: none; padding: 0; margin: 0; }
.save { position: sticky; bottom: -16px; grid-column: 1 / -1; background: var(--ground); border-top: 1px solid var(--line); padding: 8px 0; z-index: 2; }
a { min-height: 48px; display: inline-flex; align-items: center; }
@media (max-width: 1023px) { .place { grid-template-columns: minmax(0, 1fr); } .dome { grid-template-columns: 1fr 1fr; } }
</style>
