<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { useNoting } from '@/stores/noting'
import { useSums } from '@/shell/sums'
import { clockTime } from '@/shell/time'

const props = defineProps<{ sight: Schema<'Sight'>, zone: string }>()
const sums = useSums()
const noting = useNoting()
const at = (utc: string | null | undefined) => clockTime(utc, props.zone)
const rise = computed(() => props.sight.night.up.find(span => span.starts)?.start_utc)
const set = computed(() => props.sight.night.up.find(span => span.ends)?.end_utc)
const size = computed(() => props.sight.diameter_arcsec >= 120
  ? `${(props.sight.diameter_arcsec / 60).toFixed(1)}′` : `${props.sight.diameter_arcsec.toFixed(1)}″`)
const percent = (fraction: number) => fraction >= 1 ? 'more than the field' : `${(fraction * 100).toFixed(fraction < 0.1 ? 1 : 0)} % of the field`
const times = computed(() => {
  const { horizon, culmination_utc } = props.sight.night
  if (horizon !== 'rises and sets') return { figures: horizon, words: `highest ${at(culmination_utc)}` }
  return { figures: `${at(rise.value)} ${at(culmination_utc)} ${at(set.value)}`, words: 'rises, highest, sets' }
})
function note () {
  noting.target = props.sight.target.label
  noting.begin()
}
</script>

<template>
  <article class="row">
    <div class="who">
      <b>{{ sight.target.label }}</b>
      <span v-if="sight.target.kind === 'moon' || sight.lit_percent < 95"
        class="quiet small">{{ sight.lit_percent.toFixed(0) }} % lit</span>
      <span v-if="sight.refused" class="hazard">{{ sight.from_sun_deg.toFixed(0) }}° from the Sun: do not aim
        there</span>
    </div>
    <button type="button" class="cell plain-button" @click="sums.open = sight.place_sum">
      <span class="figures">{{ sight.altitude_deg.toFixed(0) }}° {{ sight.direction }}</span>
      <span class="quiet small under">{{ sight.altitude_deg < 0 ? 'below' : 'high, direction' }}</span>
    </button>
    <div class="cell">
      <span
        class="figures times">{{ times.figures }}</span>
      <span
        class="quiet small">{{ times.words }};
        up to {{ sight.night.culmination_altitude_deg.toFixed(0) }}°</span>
    </div>
    <button type="button" class="cell plain-button" @click="sums.open = sight.size_sum">
      <span class="figures">{{ size }}</span><span class="quiet small under">across</span>
    </button>
    <div v-if="sight.when === 'not tonight'" class="glass">{{ sight.why }}</div>
    <div v-else class="glass">
      <span><b>{{ at(sight.best_from_utc) }}–{{ at(sight.best_until_utc) }}.</b>
        <template v-if="sight.glass"> Start {{ sight.glass.start_label }}
          ({{ sight.glass.start_magnification.toFixed(0) }}×), climb to
          <button type="button" class="link-button inline"
            @click="sums.open = sight.glass_sum ?? null">{{ sight.glass.top.label }}
            ({{ sight.glass.top.magnification.toFixed(0) }}×)</button>:
          {{ percent(sight.glass.top.fraction_of_field) }}.<template v-if="sight.glass.detail"> In detail
          <button type="button" class="link-button inline"
            @click="sums.open = sight.detail_sum ?? null">{{ sight.glass.detail.label }}
            ({{ sight.glass.detail.magnification.toFixed(0) }}×)</button>.</template></template>
        <router-link v-else to="/kit"> Add a telescope and an eyepiece to know the glass.</router-link>
      </span>
      <span v-if="sight.glass" class="quiet small">{{ sight.glass.top.reason }}</span>
    </div>
    <v-btn v-if="sight.when !== 'not tonight'" size="small" class="note"
      :aria-label="`Note an observation of ${sight.target.label}`" @click="note">Note</v-btn>
  </article>
</template>

<style scoped>
.row { display: grid; grid-template-columns: 124px 96px 208px 68px minmax(0, 1fr) 78px; gap: 12px; align-items: center; border-top: 1px solid var(--line); padding: 6px 0; min-height: 58px; font-size: 15px; }
.times { letter-spacing: -0.04em; white-space: nowrap; }
.who { display: grid; } .cell { display: grid; min-height: 44px; align-content: center; }
.under { text-decoration: underline dotted; text-underline-offset: 3px; }
.glass { display: grid; }
.inline { padding: 0; min-height: 0; }
.hazard { color: var(--sun); font-weight: 700; font-size: 14px; }
@media (max-width: 1023px) {
  .row { grid-template-columns: 1fr 1fr; padding: 12px 0; }
  .glass { grid-column: 1 / -1; }
  .note { grid-column: 1 / -1; }
  .inline { min-height: 24px; }
}
</style>
