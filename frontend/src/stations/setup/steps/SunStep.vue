<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import SunRing from '@/drawings/dials/SunRing.vue'
import FieldForm from '@/shell/FieldForm.vue'
import SunNotice from '@/shell/SunNotice.vue'
import { asTyped, type Field } from '@/shell/fields'
import { useEvening } from '@/stores/evening'
import { useDraft } from '@/shell/drafts'
import { useAsked } from '@/shell/useAsked'
import { stepDraft } from '../drafts'
import { clockTime } from '@/shell/time'
import AdvicePanel from '../AdvicePanel.vue'
import SolarPanel from '../SolarPanel.vue'
import NumbersToggle from '../NumbersToggle.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
const evening = useEvening()
const look = ref<'landmark' | 'solar'>('landmark')
/** What was typed for this evening and place; empty until somebody typed, and the same in every window. */
const EMPTY = { bearing_deg: '', bearing_by: 'sun', height: null, altitude_deg: '', far: null, distance_m: '', job_minutes: '' }
const stored = () => evening.evening?.choice.landmark ?? EMPTY
const { values, isDraft, forget, follow } = useDraft(() => stepDraft(props.bench, 'sun'), () => ({ ...EMPTY, ...stored() }))
watch(() => JSON.stringify(stored()), follow)
const SAVE_MS = 300
let saving: ReturnType<typeof setTimeout> | undefined
async function save () {
  const typed = JSON.stringify(values.value)
  await evening.choose({ landmark: JSON.parse(typed) as Schema<'TypedLandmark'> })
  if (JSON.stringify(values.value) === typed) forget()
}
/** Told to the server after a pause; until it has taken it, the words stay a draft here. */
watch(values, () => {
  clearTimeout(saving)
  if (isDraft.value) saving = setTimeout(() => void save().catch(() => undefined), SAVE_MS)
}, { deep: true, immediate: true })
/** What still waits when the step is left is told at once. */
onScopeDispose(() => {
  clearTimeout(saving)
  if (isDraft.value) void save().catch(() => undefined)
})
const FIELDS: Field[] = [
  { key: 'bearing_deg', label: 'Bearing', unit: '°' },
  { key: 'bearing_by', label: 'Taken from', options: [{ title: 'the ring', value: 'sun' }, { title: 'a map', value: 'map' }, { title: 'a compass', value: 'compass' }] },
  { key: 'altitude_deg', label: 'Height', unit: '°', optional: true, hint: 'Over the eye. Empty: anywhere up to 10°.' },
  { key: 'distance_m', label: 'Distance', unit: 'm', measure: 'ground', hint: 'Empty: as chosen above.' },
  { key: 'job_minutes', label: 'You will work', unit: 'min', optional: true, hint: 'Empty: as usual.' },
]
const showsNumbers = ref(false)
/** The ring for aiming as high as the landmark; the bench's own is for level aiming. */
const altitude = computed(() => String(values.value.altitude_deg ?? '').trim())
const query = computed(() => {
  if (altitude.value && Number.isFinite(Number(altitude.value))) return `altitude_deg=${encodeURIComponent(altitude.value)}`
  return values.value.height ? `height=${String(values.value.height)}` : ''
})
const { answer: tilted, load: loadTilted } = useAsked(
  () => query.value ? call<Schema<'SunRing'>>(`/setup/sun?${query.value}`) : Promise.resolve(null), ['clock', 'evening'],
)
watch(query, loadTilted, { immediate: true })
const ring = computed(() => tilted.value ?? props.bench.ring)
const heightWords = computed(() => {
  if (altitude.value) return `${altitude.value}° up`
  return props.bench.heights.find(one => one.value === values.value.height)?.title ?? 'anywhere from level to 10° up'
})
function arcWords ({ from_deg, to_deg }: Schema<'Arc'>): string {
  return to_deg === 360 && from_deg === 0 ? 'all round' : `${from_deg.toFixed(0)}° → ${to_deg.toFixed(0)}°`
}
/** Where the landmark is drawn: by compass only its answer knows. */
const drawnDeg = computed(() => {
  if (values.value.bearing_by === 'compass') return check.value?.true_bearing_deg ?? null
  return String(values.value.bearing_deg).trim() ? Number(values.value.bearing_deg) || 0 : null
})
function point (trueDeg: number) {
  values.value = { ...values.value, bearing_deg: String(Math.round(trueDeg) % 360), bearing_by: 'sun' }
}
const NEAR_DEG = 1.5
const isAt = (bearing: number) => !!String(values.value.bearing_deg).trim() && Math.abs(Number(values.value.bearing_deg) - bearing) < NEAR_DEG
const prompt = computed(() => props.bench.ring.is_up && !String(values.value.bearing_deg).trim()
  ? 'Say where the landmark is, seen from the Sun.' : 'Say how far away the landmark stands.')
const { advice: check, refusal, record } = useAdvice<Schema<'LandmarkCheck'>>('landmark', () => {
  const { bearing_deg, distance_m, far, height } = values.value
  const isSomewhere = !!String(bearing_deg).trim() || !props.bench.ring.is_up
  return isSomewhere && (String(distance_m).trim() || far) ? { ...asTyped(FIELDS, values.value), far, height } : null
})
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Sun guard">
      <StepHead />
      <v-btn-toggle role="group" v-model="look" mandatory divided variant="outlined" class="ways" aria-label="What for">
        <v-btn value="landmark">Aim at a landmark</v-btn>
        <v-btn value="solar">Look at the Sun</v-btn>
      </v-btn-toggle>
      <template v-if="look === 'landmark'">
        <div class="drawing">
          <SunRing :ring="ring" :zone="evening.zone" :landmark-deg="drawnDeg" :refused="check?.refused" can-point
            @bearing="point" />
        </div>
        <div v-if="ring.sides.length" class="chips" role="group" aria-label="Where the landmark is">
          <span class="ask">It is</span>
          <v-btn v-for="one in ring.sides" :key="one.words" :class="{ refused: one.refused }"
            :aria-pressed="isAt(one.bearing_deg)"
            @click="point(one.bearing_deg)">{{ one.words }}</v-btn>
        </div>
        <div class="chips" role="group" aria-label="How far away it is">
          <span class="ask">It stands</span>
          <v-btn v-for="one in bench.distances" :key="one.value"
            :aria-pressed="values.far === one.value"
            @click="values = { ...values, far: one.value, distance_m: '' }">{{ one.title }}</v-btn>
        </div>
        <div class="chips" role="group" aria-label="How high it is">
          <span class="ask">and as high</span>
          <v-btn v-for="one in bench.heights" :key="one.value"
            :aria-pressed="values.height === one.value"
            @click="values = { ...values, height: one.value, altitude_deg: '' }">{{ one.title }}</v-btn>
        </div>
        <NumbersToggle v-model="showsNumbers" />
        <form v-if="showsNumbers || refusal" class="fields" novalidate @submit.prevent><FieldForm v-model="values"
          :fields="FIELDS" :refusal="refusal" /></form>
      </template>
      <SolarPanel v-else :bench="bench" />
    </section>
    <AdvicePanel
      :advice="look === 'landmark' ? check : null" :refusal="look === 'landmark' ? refusal : null"
      :hazard="look === 'landmark' && check?.refused"
      :prompt="look === 'landmark' ? prompt : undefined"
      :record="look === 'landmark' && check && !check.refused ? 'Use this landmark' : undefined" @record="record"
    >
      <template #above>
        <SunNotice v-if="bench.ring.is_up" :altitude-deg="bench.ring.sun.altitude_deg"
          :azimuth-deg="bench.ring.sun.azimuth_deg"
          :until-utc="bench.ring.counts_until_utc" :caution="bench.ring.caution"
          :zone="evening.zone" />
        <p v-else class="calm">{{ bench.ring.words }}<template v-if="bench.ring.counts_from_utc"> It counts as up from
          {{ clockTime(bench.ring.counts_from_utc, evening.zone) }} on.</template></p>
      </template>
      <template v-if="look === 'landmark'">
        <p v-if="check?.refused">
          <template v-if="check.allowed_from_utc">This landmark is allowed from
            <b>{{ clockTime(check.allowed_from_utc, evening.zone) }}</b> on, for as long as you will work.</template>
          <template v-else>It is not allowed within a day: take another landmark.</template>
        </p>
        <p v-else-if="check" class="quiet">Checked until
          {{ clockTime(check.holds_until_utc, evening.zone) }}; then check it again.</p>
        <p v-if="check?.true_bearing_deg != null && values.bearing_by === 'compass'">By the map the landmark stands at
          <b class="figures">{{ check.true_bearing_deg.toFixed(0) }}°</b>.</p>
        <div>
          <h2>Safe bearings</h2>
          <p v-for="arc in ring.safe" :key="arc.from_deg"
            class="figures">{{ arcWords(arc) }}</p>
          <p v-if="!ring.safe.length" class="figures">none</p>
          <p class="small quiet">true, clockwise, for aiming
            {{ heightWords }}, until
            {{ clockTime(ring.holds_until_utc, evening.zone) }}</p>
        </div>
      </template>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.chips { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; flex: none; }
.ask { font-weight: 700; min-width: 92px; }
@media (max-width: 699px) { .ask { width: 100%; } .drawing { order: 5; } }
.refused { border-style: dashed; color: var(--ink-quiet); }
.calm { border-left: 5px solid var(--jade); padding-left: 10px; }
</style>
