<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { useNoting } from '@/shell/noting'
import { useSums } from '@/shell/sums'
import { clockTime } from '@/shell/time'

const props = defineProps<{ target: Schema<'Target'>, zone: string }>()
const sums = useSums()
const noting = useNoting()
const at = (utc: string | null | undefined) => clockTime(utc, props.zone)
const rise = computed(() => props.target.night.up.find(span => span.starts)?.start_utc)
const set = computed(() => props.target.night.up.find(span => span.ends)?.end_utc)
const size = computed(() => props.target.diameter_arcsec >= 120
  ? `${(props.target.diameter_arcsec / 60).toFixed(1)}′` : `${props.target.diameter_arcsec.toFixed(1)}″`)
const percent = (fraction: number) => fraction >= 1 ? 'more than the field' : `${(fraction * 100).toFixed(fraction < 0.1 ? 1 : 0)} % of the field`
function note () {
  noting.target = props.target.label
  noting.begin()
}
</script>

<template>
  <article class="row">
    <div class="who">
      <b>{{ target.label }}</b>
      <span v-if="target.body === 'moon' || target.lit_percent < 95" class="quiet small">{{ target.lit_percent.toFixed(0) }} % lit</span>
      <span v-if="target.refused" class="hazard">{{ target.from_sun_deg.toFixed(0) }}° from the Sun: do not aim there</span>
    </div>
    <button type="button" class="cell plain-button" @click="sums.open = target.place_sum">
      <span class="figures">{{ target.altitude_deg.toFixed(0) }}° {{ target.direction }}</span>
      <span class="quiet small under">{{ target.altitude_deg < 0 ? 'below' : 'high, direction' }}</span>
    </button>
    <div class="cell">
      <span class="figures times">{{ target.night.horizon === 'rises and sets' ? `${at(rise)} ${at(target.night.culmination_utc)} ${at(set)}` : target.night.horizon }}</span>
      <span class="quiet small">{{ target.night.horizon === 'rises and sets' ? 'rises, highest, sets' : `highest ${at(target.night.culmination_utc)}` }}; up to {{ target.night.culmination_altitude_deg.toFixed(0) }}°</span>
    </div>
    <button type="button" class="cell plain-button" @click="sums.open = target.size_sum">
      <span class="figures">{{ size }}</span><span class="quiet small under">across</span>
    </button>
    <div v-if="target.when === 'not tonight'" class="glass">{{ target.why }}</div>
    <div v-else class="glass">
      <span><b>{{ at(target.best_from_utc) }}–{{ at(target.best_until_utc) }}.</b>
        <template v-if="target.glass"> Start {{ target.glass.start_label }} ({{ target.glass.start_magnification.toFixed(0) }}×), climb to
          <button type="button" class="link-button inline" @click="sums.open = target.glass_sum ?? null">{{ target.glass.top_label }} ({{ target.glass.top_magnification.toFixed(0) }}×)</button>:
          {{ percent(target.glass.top_fraction_of_field) }}.</template>
        <router-link v-else to="/kit"> Add a telescope and an eyepiece to know the glass.</router-link>
      </span>
      <span v-if="target.glass" class="quiet small">{{ target.glass.reason }}</span>
    </div>
    <v-btn v-if="target.when !== 'not tonight'" size="small" class="note" :aria-label="`Note an observation of ${target.label}`" @click="note">Note</v-btn>
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
