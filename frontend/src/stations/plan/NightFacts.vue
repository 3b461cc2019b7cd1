<script setup lang="ts">
import { computed, onMounted, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { clockTime, dayWords } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'
import { useTonight } from '@/stores/tonight'
import JovianMoons from './JovianMoons.vue'
import NightLine from './NightLine.vue'

/** What the chosen night holds: the Moon's face, the planets, what Jupiter's moons do. */
defineEmits<{ tonight: [] }>()
const evening = useEvening()
const tonight = useTonight()
const { answer, refusal, load } = useAsked(() => call<Schema<'NightFacts'> | null>(
  tonight.atUtc ? `/plan/night?${new URLSearchParams({ at_utc: tonight.atUtc })}` : '/plan/night'), ['evening', 'clock', 'kit'])
onMounted(load)
watch(() => tonight.atUtc, load)
const moon = computed(() => answer.value?.moon ?? null)
const at = (utc: string | null) => utc ? clockTime(utc, evening.zone) : '…'
const signed = (deg: number, plus: string, minus: string) => `${Math.abs(deg).toFixed(1)}° ${deg >= 0 ? plus : minus}`
const turnedWords = (one: Schema<'PlanetFacts'>) => [
  ...one.ring_tilt_deg === null ? [] : [`rings ${signed(one.ring_tilt_deg, 'north face', 'south face')}`],
  ...one.meridians.map(turn => `${turn.system} ${turn.longitude_deg.toFixed(0)}°`.trim()),
].join(', ')
const title = computed(() => evening.evening?.night ? dayWords(evening.evening.night.date) : '')
</script>

<template>
  <aside class="facts" aria-label="The chosen night">
    <header><h2>{{ title }}</h2><v-btn size="small" @click="$emit('tonight')">See its targets</v-btn></header>
    <NightLine v-if="evening.evening?.night" :night="evening.evening.night" :zone="evening.zone" />
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <template v-else-if="answer && moon">
      <h3>The Moon at {{ at(answer.at_utc) }}</h3>
      <p>{{ moon.lit_percent.toFixed(0) }} % lit, {{ moon.is_waxing ? 'waxing' : 'waning' }}, {{
        moon.age_days.toFixed(1) }} days old,
        {{ moon.diameter_arcmin.toFixed(1) }}′ across. Colongitude {{ moon.colongitude_deg.toFixed(1) }}°; libration
        {{ signed(moon.libration_longitude_deg, 'east', 'west') }}, {{ signed(moon.libration_latitude_deg, 'north',
          'south') }}.</p>
      <p v-if="moon.features.length" class="small quiet">Low light now, with the Sun's height:</p>
      <ul v-if="moon.features.length" class="features">
        <li v-for="one in moon.features" :key="one.key">{{ one.label }} <span class="figures quiet">{{
          one.sun_altitude_deg.toFixed(0) }}°</span></li>
      </ul>
      <h3>Planets</h3>
      <table>
        <thead><tr><th scope="col">Planet</th><th scope="col">Across</th><th scope="col">Lit</th><th
          scope="col">Turned</th></tr></thead>
        <tbody>
          <tr v-for="one in answer.planets" :key="one.body">
            <th scope="row">{{ one.label }}</th>
            <td class="figures">{{ one.diameter_arcsec.toFixed(1) }}″</td>
            <td class="figures">{{ one.lit_percent.toFixed(0) }} %</td>
            <td class="small">{{ turnedWords(one) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="one in answer.planets.filter(planet => planet.resolves_words)" :key="one.body" class="small quiet">
        {{ one.label }}: {{ one.resolves_words }}</p>
      <h3>Jupiter's moons at {{ at(answer.at_utc) }}</h3>
      <JovianMoons :moons="answer.jupiter" />
      <ul v-if="answer.events.length" class="events">
        <li v-for="(one, n) in answer.events" :key="n"><span class="figures">{{ at(one.starts_utc) }}–{{
          at(one.ends_utc) }}</span>
          {{ one.moon }}: {{ one.words }}</li>
      </ul>
      <p v-else class="quiet small">None of them passes before or behind Jupiter between these noons.</p>
    </template>
    <v-progress-linear v-else indeterminate color="primary" aria-label="Working out the night" />
  </aside>
</template>

<style scoped>
.facts { display: flex; flex-direction: column; gap: 8px; padding: 0 0 16px 20px; border-left: 1px solid var(--line); font-size: 15px; }
header { display: flex; justify-content: space-between; align-items: center; }
h3 { font-size: 15px; margin-top: 6px; }
.features { list-style: none; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 2px 16px; }
.events { list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: 3px 8px 3px 0; border-top: 1px solid var(--line); font-weight: 400; }
thead th { color: var(--ink-quiet); font-size: 13px; border-top: 0; } tbody th { font-weight: 700; }
@media (max-width: 1023px) { .facts { border-left: 0; padding: 12px 0; } }
</style>
