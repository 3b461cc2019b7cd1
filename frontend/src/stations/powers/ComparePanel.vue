<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { call } from '@/api/client'
import { telescopes } from '@/api/items'
import LadderDrawing from '@/drawings/ladder/LadderDrawing.vue'
import { useEvening } from '@/stores/evening'
import { useRegime } from '@/shell/regime'
import { useAsked } from '@/shell/useAsked'
import { useWindow } from '@/shell/useWindow'
import { useSize } from '@/shell/width'
import type { Ladder, Rung } from '@/stores/rungs'
import { useRungSum, type Figure } from './rungSum'

const evening = useEvening()
const { answer: owned, refusal: unread, load: loadOwned } = useAsked(() => telescopes.list(), ['kit'])
const named = computed(() => owned.value ?? [])
const picked = ref<(number | null)[]>([null, null])
/** Tonight's telescope and another, until others are picked; however late tonight's is known. */
const chosen = computed(() => {
  const first = picked.value[0] ?? evening.evening?.telescope?.id ?? named.value[0]?.id ?? null
  const second = picked.value[1] ?? named.value.find(one => one.id !== first)?.id ?? null
  return [first, second]
})
/** Only the two that are compared are asked for. */
const { answer: ladders, refusal: unbuilt, load } = useAsked(async () => {
  const ids = [...new Set(chosen.value.filter(id => id !== null))]
  if (!ids.length) return null
  return call<Ladder[]>(`/powers/ladders?${new URLSearchParams(ids.map(id => ['telescope_id', String(id)]))}`)
}, ['kit', 'evening'])
watch(() => chosen.value.join(), load)
const refusal = computed(() => unread.value ?? unbuilt.value)
const pair = computed(() => chosen.value.map(id => ladders.value?.find(one => one.telescope_id === id)))
const keys = ref<Record<number, string>>({})
/** The same glass in both telescopes, alone and with each amplifier. */
const shared = computed(() => {
  const [one, two] = pair.value
  return (one?.rungs ?? []).map(rung => ({
    label: rung.label, one: rung, two: two?.rungs.find(other => other.key === rung.key),
  }))
})
const openSum = useRungSum()
const threeOf = (rung: Rung): { figure: Figure, name: string, value: string }[] => [
  { figure: 'magnification', name: 'Power', value: `${rung.magnification.toFixed(0)}×` },
  { figure: 'true_field', name: 'True field', value: `${rung.true_field_deg.toFixed(2)}°` },
  { figure: 'exit_pupil', name: 'Exit pupil', value: `${rung.exit_pupil_mm.toFixed(1)} mm` },
]
const keyOf = (ladder: Ladder) => keys.value[ladder.telescope_id ?? 0] ?? ladder.start?.key
function select (ladder: Ladder, key: string) {
  keys.value = { ...keys.value, [ladder.telescope_id ?? 0]: key }
}
function step (ladder: Ladder, by: number) {
  const at = ladder.rungs.findIndex(rung => rung.key === keyOf(ladder))
  const next = ladder.rungs[Math.max(0, Math.min(ladder.rungs.length - 1, at + by))]
  if (next) select(ladder, next.key)
}
onMounted(() => Promise.all([loadOwned(), load()]))
/** Of many glasses only those that are seen are drawn; on a phone both answers stand under the name of the glass. */
const host = ref<HTMLElement | null>(null)
const { width } = useSize(host)
const regime = useRegime()
const NARROW_PX = 420
const isNarrow = computed(() => width.value > 0 && width.value < NARROW_PX)
const rowPx = computed(() => (isNarrow.value ? 34 : 0) + (regime.regime === 'dark' ? 52 : 40))
const { shown, beforePx, afterPx, onScroll } = useWindow(shared, rowPx, host)
</script>

<template>
  <section v-if="named.length > 1" class="compare" aria-label="Compare two telescopes">
    <div v-for="(ladder, n) in pair" :key="n" class="side">
      <v-select :model-value="chosen[n]" :items="named" item-title="name" item-value="id"
        :label="n ? 'against' : 'compare'" density="compact" @update:model-value="picked[n] = $event" />
      <LadderDrawing v-if="ladder?.rungs.length" :ladder="ladder" :selected-key="keyOf(ladder)" class="drawing"
        @select="select(ladder, $event)" @step="step(ladder, $event)" />
      <p v-else class="quiet">No eyepiece fits this one yet.</p>
    </div>
    <div ref="host" class="table scroll-y" :class="{ narrow: isNarrow }" data-scrolls @scroll.passive="onScroll">
      <h2>The same glass in both</h2>
      <table :aria-rowcount="shared.length + 1">
        <thead>
          <tr><th>Eyepiece</th><th v-for="id in chosen"
            :key="id ?? 0">{{ named.find(one => one.id === id)?.name }}</th></tr>
        </thead>
        <tbody>
          <tr v-if="beforePx" aria-hidden="true" :style="{ height: `${beforePx}px` }" />
          <tr v-for="{ row, index } in shown" :key="row.label" :style="{ height: `${rowPx}px` }"
            :aria-rowindex="index + 2">
            <td>{{ row.label }}</td>
            <td v-for="(rung, n) in [row.one, row.two]" :key="n" class="figures">
              <template v-if="rung">
                <button v-for="one in threeOf(rung)" :key="one.figure" type="button" class="plain-button open"
                  :aria-label="`${one.name} ${one.value} of ${row.label} in ${pair[n]?.telescope_name}: the sum`"
                  @click="openSum(one.figure, rung.key, pair[n]?.telescope_id)">{{ one.value }}</button>
              </template>
              <template v-else>does not fit</template>
            </td>
          </tr>
          <tr v-if="afterPx" aria-hidden="true" :style="{ height: `${afterPx}px` }" />
        </tbody>
      </table>
      <p class="small quiet">Power, true field and exit pupil.</p>
    </div>
  </section>
  <section v-else class="none">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <template v-else><p>A second telescope is needed to compare.</p><v-btn to="/kit" color="primary" variant="flat">Go
      to the kit</v-btn></template>
  </section>
</template>

<style scoped>
.compare { display: grid; grid-template-columns: 1fr 1fr 1.15fr; gap: 16px; height: 100%; padding: 10px 16px; min-height: 0; }
.side { display: flex; flex-direction: column; gap: 8px; min-height: 0; }
.side :deep(.v-input) { flex: none; }
.drawing { flex: 1; min-height: 0; }
.figures { font-size: 14px; letter-spacing: -0.04em; white-space: nowrap; }
table { border-collapse: collapse; width: 100%; font-size: 15px; } th, td { text-align: left; padding: 0 4px; border-bottom: 1px solid var(--line); } td:first-child { white-space: nowrap; font-size: 14px; }

.open { min-height: max(24px, var(--least)); min-width: max(24px, var(--least)); font: inherit; letter-spacing: inherit; margin-right: 0.3em; text-decoration: underline dotted; text-underline-offset: 3px; }
.none { height: 100%; display: grid; place-content: center; gap: 14px; text-align: center; }
@media (max-width: 899px) { .compare { grid-template-columns: 1fr 1fr; height: auto; align-content: start; } .table { grid-column: 1 / -1; } .drawing { min-height: 420px; } }
.narrow tr:not([aria-hidden]) { display: grid; grid-template-columns: 1fr 1fr; align-content: start; border-bottom: 1px solid var(--line); }
.narrow :is(td, th) { border: 0; padding: 2px 4px; }
.narrow thead th:first-child { display: none; }
.narrow td:first-child { grid-column: 1 / -1; font-weight: 700; line-height: 28px; }
.narrow td.figures { display: flex; gap: 0 8px; letter-spacing: -0.06em; }
.narrow .open { margin: 0; min-height: max(32px, var(--least)); }
@media (max-width: 699px) { .compare { gap: 8px; padding: 8px; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); } .side { min-width: 0; } .table { max-height: 60dvh; } }
</style>
