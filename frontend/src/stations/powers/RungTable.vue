<script setup lang="ts">
import { ascending, descending } from 'd3-array'
import { computed, ref } from 'vue'
import type { Ladder, Rung } from '@/stores/rungs'
import { minutesSeconds } from '@/shell/time'
import { useRungSum, type Figure } from './rungSum'

const props = defineProps<{ ladder: Ladder, csvHref: string, selectedKey: string | undefined }>()
defineEmits<{ select: [key: string] }>()
interface Column { key: keyof Rung, title: string, show: (rung: Rung) => string, sum?: Figure }
/** How far a figure may be off; nothing where every input is known. */
const off = (percent: number) => percent ? ` ±${percent.toFixed(0)} %` : ''
const minutes = (seconds: number | null) => seconds === null ? 'never' : minutesSeconds(seconds)
const COLUMNS: readonly Column[] = [
  { key: 'label', title: 'Rung', show: rung => rung.label },
  { key: 'magnification', title: 'Power ×', show: rung => rung.magnification.toFixed(0) + off(rung.magnification_off_percent), sum: 'magnification' },
  { key: 'true_field_deg', title: 'Field °', show: rung => rung.true_field_deg.toFixed(2) + off(rung.field_off_percent), sum: 'true_field' },
  { key: 'exit_pupil_mm', title: 'Exit pupil mm', show: rung => rung.exit_pupil_mm.toFixed(2) + off(rung.magnification_off_percent), sum: 'exit_pupil' },
  { key: 'focal_ratio', title: 'f/', show: rung => rung.focal_ratio.toFixed(1) + off(rung.magnification_off_percent), sum: 'focal_ratio' },
  { key: 'working_aperture_mm', title: 'Works as mm', show: rung => rung.working_aperture_mm.toFixed(0), sum: 'working_aperture' },
  { key: 'relative_brightness', title: 'Bright about %', show: rung => (rung.relative_brightness * 100).toFixed(0), sum: 'brightness' },
  { key: 'faintest_mag', title: 'Faintest about mag', show: rung => rung.faintest_mag.toFixed(1), sum: 'faintest' },
  { key: 'dawes_arcsec', title: 'Dawes ″', show: rung => rung.dawes_arcsec.toFixed(2), sum: 'dawes' },
  { key: 'rayleigh_arcsec', title: 'Rayleigh ″', show: rung => rung.rayleigh_arcsec.toFixed(2), sum: 'rayleigh' },
  { key: 'drift_s', title: 'Drift min', show: rung => minutes(rung.drift_s), sum: 'drift' },
  { key: 'nudge_s', title: 'Nudge min', show: rung => minutes(rung.nudge_s), sum: 'nudge' },
  { key: 'eye_relief_mm', title: 'Eye relief mm', show: rung => rung.eye_relief_mm === null ? '?' : rung.eye_relief_mm.toFixed(0), sum: 'eye_relief' },
  { key: 'refocus_mm', title: 'Refocus mm', show: rung => rung.refocus_mm === null ? '?' : rung.refocus_mm.toFixed(2), sum: 'refocus' },
  { key: 'shadow', title: 'Shadow', show: rung => SHADOWS[rung.shadow], sum: 'shadow' },
  { key: 'verdict', title: 'Verdict', show: rung => rung.verdict, sum: 'exit_pupil' },
]
const SHADOWS = { none: 'none', by_day: 'by day', by_night: 'seen' } as const
const openSum = useRungSum()
const by = ref<keyof Rung>('magnification')
const isDown = ref(false)
const sorted = computed(() => {
  const order = isDown.value ? descending : ascending
  return [...props.ladder.rungs].sort((a, b) => order(a[by.value] as number, b[by.value] as number))
})
function sortBy (key: keyof Rung) {
  isDown.value = by.value === key ? !isDown.value : false
  by.value = key
}
const arrow = (key: keyof Rung) => by.value !== key ? '' : isDown.value ? ' ▾' : ' ▴'
const sortWord = (key: keyof Rung) => by.value !== key ? 'none' : isDown.value ? 'descending' : 'ascending'
</script>

<template>
  <section class="panel" aria-label="Table of rungs">
    <p><a :href="csvHref" download>Save this table as CSV</a> <span class="quiet small">± is how far a figure may be
      off.</span></p>
    <div class="rows">
      <table>
        <thead>
          <tr>
            <th v-for="column in COLUMNS" :key="column.key" :aria-sort="sortWord(column.key)">
              <button type="button" class="plain-button"
                @click="sortBy(column.key)">{{ column.title }}{{ arrow(column.key) }}</button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="rung in sorted" :key="rung.key" :class="{ chosen: rung.key === selectedKey }"
            @click="$emit('select', rung.key)">
            <td v-for="column in COLUMNS" :key="column.key"
              :class="{ figures: column.sum && column.key !== 'verdict', words: column.key === 'verdict' }">
              <button v-if="column.sum" type="button" class="plain-button open"
                :aria-label="`${column.title} ${column.show(rung)} of ${rung.label}: how is this worked out?`"
                @click.stop="openSum(column.sum, rung.key)">{{ column.show(rung) }}</button>
              <template v-else>{{ column.show(rung) }}</template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.panel { display: flex; flex-direction: column; gap: 8px; min-height: 0; padding: 10px 18px; height: 100%; }
.rows { overflow: auto; min-height: 0; }
table { border-collapse: collapse; width: 100%; font-size: 14px; }
th { position: sticky; top: 0; background: var(--ground); text-align: right; font-size: 13px; padding: 0 5px; line-height: 1.15; }
th button { min-height: 48px; font-weight: 700; }
td { text-align: right; padding: 9px 5px; border-top: 1px solid var(--line); white-space: nowrap; }
th:first-child, td:first-child { text-align: left; padding-left: 8px; }
tbody tr { cursor: pointer; } tbody tr:hover { background: var(--jade-wash); }
td:last-child, th:last-child { text-align: left; }
.words { white-space: normal; min-width: 190px; font-weight: 400; line-height: 1.2; }
.open { min-height: 0; font: inherit; text-align: inherit; text-decoration: underline dotted; text-underline-offset: 3px; }
.chosen { background: var(--jade-wash); font-weight: 700; box-shadow: inset 5px 0 0 var(--jade); }
</style>
