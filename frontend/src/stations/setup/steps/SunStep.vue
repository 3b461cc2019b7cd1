<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import SunRing from '@/drawings/dials/SunRing.vue'
import FieldForm from '@/shell/FieldForm.vue'
import SunNotice from '@/shell/SunNotice.vue'
import { asTyped, type Field } from '@/shell/fields'
import { useEvening } from '@/shell/evening'
import { useKept } from '@/shell/kept'
import { clockTime } from '@/shell/time'
import AdvicePanel from '../AdvicePanel.vue'
import SolarPanel from '../SolarPanel.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '../bench'

const props = defineProps<{ bench: Bench }>()
const evening = useEvening()
const look = ref<'landmark' | 'solar'>('landmark')
const values = useKept<Record<string, unknown>>('landmark', { bearing_deg: '20', bearing_by: 'map', altitude_deg: '0', distance_m: '800', job_minutes: '30' })
const FIELDS: Field[] = [
  { key: 'bearing_deg', label: 'Bearing', unit: '°' },
  { key: 'bearing_by', label: 'Taken from', options: [{ title: 'a map', value: 'map' }, { title: 'a compass', value: 'compass' }] },
  { key: 'altitude_deg', label: 'Height over the eye', unit: '°', optional: true },
  { key: 'distance_m', label: 'Distance', unit: 'm' },
  { key: 'job_minutes', label: 'You will work', unit: 'min', optional: true },
]
/** The ring for aiming as high as the landmark; the bench's own is for level aiming. */
const tilted = shallowRef<Schema<'SunRing'> | null>(null)
watch(() => String(values.value.altitude_deg ?? '').trim(), async altitude => {
  if (altitude === '' || Number(altitude) === 0) tilted.value = null
  else tilted.value = await call<Schema<'SunRing'>>(`/setup/sun?altitude_deg=${encodeURIComponent(altitude)}`).catch(() => null)
}, { immediate: true })
const ring = computed(() => tilted.value ?? props.bench.ring)
/** Where the landmark is drawn: by compass only its answer knows. */
const drawnDeg = computed(() => values.value.bearing_by === 'compass' ? check.value?.true_bearing_deg ?? null : Number(values.value.bearing_deg) || 0)
function point (trueDeg: number) {
  values.value = { ...values.value, bearing_deg: String(trueDeg), bearing_by: 'map' }
}
const { advice: check, refusal, record } = useAdvice<Schema<'LandmarkCheck'>>('landmark', () => asTyped(FIELDS, values.value))
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Sun guard">
      <StepHead />
      <v-btn-toggle v-model="look" mandatory divided variant="outlined" class="ways" aria-label="What for">
        <v-btn value="landmark">Aim at a landmark</v-btn>
        <v-btn value="solar">Look at the Sun</v-btn>
      </v-btn-toggle>
      <template v-if="look === 'landmark'">
        <div class="drawing">
          <SunRing :ring="ring" :zone="evening.zone" :landmark-deg="drawnDeg" :refused="check?.refused" can-point @bearing="point" />
        </div>
        <form class="fields" novalidate @submit.prevent><FieldForm v-model="values" :fields="FIELDS" :refusal="refusal" /></form>
      </template>
      <SolarPanel v-else :bench="bench" />
    </section>
    <AdvicePanel
      :advice="look === 'landmark' ? check : null" :refusal="look === 'landmark' ? refusal : null" :hazard="look === 'landmark' && check?.refused"
      :record="look === 'landmark' && check && !check.refused ? 'Use this landmark' : undefined" @record="record"
    >
      <template #above>
        <SunNotice v-if="bench.ring.is_up" :altitude-deg="bench.ring.sun.altitude_deg" :azimuth-deg="bench.ring.sun.azimuth_deg" :until-utc="bench.ring.sets_utc" :caution="bench.ring.caution" :zone="evening.zone" />
        <p v-else class="calm">The Sun is down<template v-if="bench.ring.rises_utc"> until {{ clockTime(bench.ring.rises_utc, evening.zone) }}</template>.</p>
      </template>
      <template v-if="look === 'landmark'">
        <p v-if="check?.refused">
          <template v-if="check.allowed_from_utc">This landmark is allowed from <b>{{ clockTime(check.allowed_from_utc, evening.zone) }}</b>, when the Sun is down.</template>
          <template v-else>The Sun does not set within a day: take another landmark.</template>
        </p>
        <p v-if="check?.true_bearing_deg != null && values.bearing_by === 'compass'">By the map the landmark stands at <b class="figures">{{ check.true_bearing_deg.toFixed(0) }}°</b>.</p>
        <div>
          <h2>Safe bearings</h2>
          <p v-for="arc in ring.safe" :key="arc.from_deg" class="figures">{{ arc.to_deg === 360 && arc.from_deg === 0 ? 'all round' : `${arc.from_deg.toFixed(0)}° → ${arc.to_deg.toFixed(0)}°` }}</p>
          <p v-if="!ring.safe.length" class="figures">none</p>
          <p class="small quiet">true, clockwise, for aiming {{ tilted ? `${Number(values.altitude_deg)}° up` : 'level' }}, until {{ clockTime(ring.holds_until_utc, evening.zone) }}</p>
        </div>
      </template>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.calm { border-left: 5px solid var(--jade); padding-left: 10px; }
</style>
