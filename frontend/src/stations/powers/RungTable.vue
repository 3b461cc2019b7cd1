<script setup lang="ts">
import { ascending, descending } from 'd3-array'
import { computed, nextTick, ref } from 'vue'
import type { Ladder, Rung } from '@/stores/rungs'
import { useRegime } from '@/shell/regime'
import { minutesSeconds } from '@/shell/time'
import { useWindow } from '@/shell/useWindow'
import { useRungSum, type Figure } from './rungSum'

const props = defineProps<{ ladder: Ladder, csvHref: string, selectedKey: string | undefined }>()
const emit = defineEmits<{ select: [key: string] }>()
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
/** Every row has the same height, in the dark one for a finger in a glove; only what is seen is drawn. */
const regime = useRegime()
const rowPx = computed(() => regime.regime === 'dark' ? 52 : 44)
const host = ref<HTMLElement | null>(null)
const { shown, beforePx, afterPx, onScroll, reveal } = useWindow(sorted, rowPx, host)
/** The row the keys are on: the chosen one until another is reached. */
const reached = ref<string | null>(null)
const activeKey = computed(() => {
  const wanted = reached.value ?? props.selectedKey
  return sorted.value.some(rung => rung.key === wanted) ? wanted : sorted.value[0]?.key
})
/** Up and down from row to row; Enter or Space stands on it. Inside the row its figures are reached by Tab. */
async function onKey (event: KeyboardEvent, index: number) {
  const isRow = event.target === event.currentTarget
  const by = { ArrowUp: -1, ArrowDown: 1, PageUp: -10, PageDown: 10, Home: -sorted.value.length, End: sorted.value.length }[event.key]
  if (isRow && (event.key === 'Enter' || event.key === ' ')) emit('select', sorted.value[index]!.key)
  else if (by !== undefined) {
    const at = Math.min(sorted.value.length - 1, Math.max(0, index + by))
    reached.value = sorted.value[at]?.key ?? null
    reveal(at)
    await nextTick()
    host.value?.querySelector<HTMLElement>('tr[tabindex="0"]')?.focus({ preventScroll: true })
  } else return
  event.preventDefault()
  event.stopPropagation()
}
const arrow = (key: keyof Rung) => by.value !== key ? '' : isDown.value ? ' ▾' : ' ▴'
const sortWord = (key: keyof Rung) => by.value !== key ? 'none' : isDown.value ? 'descending' : 'ascending'
</script>

<template>
  <section class="panel" aria-label="Table of rungs">
    <p><a :href="csvHref" download>Save this table as CSV</a> <span class="quiet small">± is how far a figure may be
      off.</span></p>
    <div ref="host" class="rows" data-scrolls @scroll.passive="onScroll">
      <table :aria-rowcount="sorted.length + 1">
        <thead>
          <tr>
            <th v-for="column in COLUMNS" :key="column.key" :aria-sort="sortWord(column.key)">
              <button type="button" class="plain-button"
                @click="sortBy(column.key)">{{ column.title }}{{ arrow(column.key) }}</button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="beforePx" aria-hidden="true" class="room" :style="{ height: `${beforePx}px` }" />
          <tr v-for="{ row: rung, index } in shown" :key="rung.key" :class="{ chosen: rung.key === selectedKey }"
            :style="{ height: `${rowPx}px` }" :tabindex="rung.key === activeKey ? 0 : -1" :aria-rowindex="index + 2"
            :aria-current="rung.key === selectedKey || undefined"
            @click="$emit('select', rung.key)" @keydown="onKey($event, index)">
            <td v-for="column in COLUMNS" :key="column.key"
              :class="{ figures: column.sum && column.key !== 'verdict', words: column.key === 'verdict' }">
              <button v-if="column.sum" type="button" class="plain-button open"
                :tabindex="rung.key === activeKey ? 0 : -1"
                :aria-label="`${column.title} ${column.show(rung)} of ${rung.label}: how is this worked out?`"
                @click.stop="openSum(column.sum, rung.key)">{{ column.show(rung) }}</button>
              <template v-else>{{ column.show(rung) }}</template>
            </td>
          </tr>
          <tr v-if="afterPx" aria-hidden="true" class="room" :style="{ height: `${afterPx}px` }" />
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
th button { min-height: 48px; min-width: max(28px, var(--least)); font-weight: 700; }
thead th { z-index: 1; }
td { text-align: right; padding: 0 5px; border-top: 1px solid var(--line); white-space: nowrap; }
th:first-child, td:first-child { text-align: left; padding-left: 8px; }
tbody tr { cursor: pointer; } tbody tr:hover { background: var(--jade-wash); }
td:last-child, th:last-child { text-align: left; }
.words { white-space: normal; min-width: 150px; font-weight: 400; line-height: 1.15; }
.words .open { display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; max-height: 2.3em; min-height: max(24px, var(--least)); }
tbody tr:focus-visible { outline-offset: -3px; }
.room { cursor: auto; }
p a { min-height: max(24px, var(--least)); display: inline-flex; align-items: center; }
.open { min-height: max(32px, var(--least)); min-width: max(32px, var(--least)); font: inherit; text-align: inherit; text-decoration: underline dotted; text-underline-offset: 3px; }
.chosen { background: var(--jade-wash); font-weight: 700; box-shadow: inset 5px 0 0 var(--jade); }
</style>
