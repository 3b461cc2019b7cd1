<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { call, type Schema } from '@/api/client'
import { dayWords } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'
import NightFacts from './NightFacts.vue'

/** The dark hours of the coming nights as bars; one click chooses the evening. */
defineEmits<{ tonight: [] }>()
const evening = useEvening()
const { answer, refusal, isLoading, load } = useAsked(() => call<Schema<'Calendar'> | null>('/plan/calendar'), ['evening', 'clock'])
onMounted(load)
const chosen = computed(() => evening.evening?.night?.date ?? null)
const HOUR_MS = 3_600_000
/** Bars share one axis: hours before and after midnight by the Sun, as wide as the longest night. */
const rows = computed(() => {
  const nights = answer.value?.nights ?? []
  const longitude = evening.evening?.site?.longitude_deg ?? 0
  const middle = (date: string) => Date.parse(`${date}T24:00:00Z`) - longitude / 15 * HOUR_MS
  const hours = nights.flatMap(one => one.spans.flatMap(span => [span.start_utc, span.end_utc].map(at => Math.abs(Date.parse(at) - middle(one.date)))))
  const half = Math.max(4 * HOUR_MS, ...hours)
  const across = (utc: string, date: string) => 50 + 50 * (Date.parse(utc) - middle(date)) / half
  return nights.map(one => ({
    ...one, day: dayWords(one.date),
    bars: one.spans.map(span => ({
      left: across(span.start_utc, one.date), width: across(span.end_utc, one.date) - across(span.start_utc, one.date), moonless: span.is_moonless,
    })),
  }))
})
const choose = (date: string) => evening.choose({ date })
const hours = (value: number) => `${value.toFixed(1)} h`
</script>

<template>
  <div class="calendar">
    <Teleport to="#plan-head" defer>
      <p v-if="answer" class="best">{{ answer.best_words }}</p>
      <a v-if="answer" href="/api/plan/calendar.ics" download>Save as iCalendar</a>
    </Teleport>
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!answer" :active="isLoading" indeterminate color="primary"
      aria-label="Counting the dark hours" />
    <ol v-else class="nights scroll-y" aria-label="Dark hours of the coming nights">
      <li v-for="row in rows" :key="row.date">
        <button type="button" class="night plain-button" :class="{ chosen: row.date === chosen }"
          :aria-pressed="row.date === chosen" @click="choose(row.date)">
          <span class="day figures">{{ row.day }}</span>
          <span class="bar" aria-hidden="true"><i v-for="bar in row.bars" :key="bar.left" :class="{ moonless:
            bar.moonless }"
            :style="{ left: `${bar.left}%`, width: `${bar.width}%` }" /></span>
          <span class="figures">{{ hours(row.moonless_hours) }}</span>
          <span class="quiet small">Moon {{ row.moon_lit_percent.toFixed(0) }} %</span>
          <b class="small">{{ row.is_best ? 'best' : '' }}</b>
        </button>
      </li>
    </ol>
    <NightFacts class="facts scroll-y" @tonight="$emit('tonight')" />
  </div>
</template>

<style scoped>
.calendar { display: grid; grid-template-columns: minmax(0, 1fr) 420px; gap: 24px; min-height: 0; }
.best { flex: 1; font-weight: 600; }
.nights { list-style: none; margin: 0; padding: 0 0 12px; min-height: 0; }
.night { display: grid; grid-template-columns: 96px minmax(0, 1fr) 56px 92px 40px; gap: 10px; align-items: center; width: 100%; min-height: max(32px, var(--least)); border-top: 1px solid var(--line); padding: 0 6px; font-size: 15px; }
.night:focus-visible { outline-offset: -3px; }
.chosen { background: var(--jade-wash); box-shadow: inset 5px 0 0 var(--jade); }
.day { font-size: 14px; }
.bar { position: relative; height: 16px; background: var(--light-civil); border-radius: 3px; overflow: hidden; }
.bar i { position: absolute; top: 0; bottom: 0; background: var(--light-astronomical); border-top: 5px solid var(--moon-band); }
.bar i.moonless { background: var(--light-dark); border-top: 0; }
.facts { min-height: 0; }
a { white-space: nowrap; min-height: 48px; display: inline-flex; align-items: center; }
:root[data-regime='dark'] .night { min-height: 48px; }
@media (max-width: 1023px) {
  .calendar { display: block; overflow-y: auto; }
  .night { grid-template-columns: 88px minmax(0, 1fr) 52px 40px; min-height: 48px; } .night .quiet { display: none; }
}
</style>
