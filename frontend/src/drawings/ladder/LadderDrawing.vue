<script setup lang="ts">
import { scaleLog } from 'd3-scale'
import { computed, nextTick, ref, watch } from 'vue'
import type { Ladder } from '@/stores/rungs'
import { useSize } from '@/shell/width'
import { spreadLabels } from './spread'
import { fitted, placeWords } from './words'
import { useRegime } from '@/shell/regime'

const props = defineProps<{ ladder: Ladder, selectedKey: string | undefined }>()
const emit = defineEmits<{ select: [key: string], step: [by: number] }>()
const host = ref<HTMLElement | null>(null)
const svg = ref<SVGSVGElement | null>(null)
const { width, height: room } = useSize(host)
const regime = useRegime()
const EDGE = 14
/** So far apart stand two rungs that can be pressed. */
const gap = computed(() => regime.leastPx)
/** So many are drawn as rungs to press; of more, a label each would be a list and no drawing. */
const MOST_TALL = 40
/** As tall as its room, or taller, to be scrolled, where the rungs would stand too close for a finger. */
const height = computed(() => {
  const wanted = Math.min(props.ladder.rungs.length, MOST_TALL) * gap.value + 2 * EDGE
  return Math.max(room.value, regime.regime === 'dark' ? wanted : 0)
})
const isTaller = computed(() => height.value > room.value)
const LABEL_WIDTH = 124
/** Below this width, as two beside each other on a phone, rungs and limits are drawn without the words at the edge. */
const NARROW_PX = 250
const isNarrow = computed(() => width.value < NARROW_PX)
const rails = computed(() => isNarrow.value ? [46, 66] as const : [58, 112] as const)

const powers = computed(() => [...props.ladder.rungs.map(rung => rung.magnification), ...props.ladder.claims.map(claim => claim.printed)])
const y = computed(() => scaleLog(
  [Math.min(...powers.value) * 0.82, Math.max(...powers.value) * 1.18],
  [Math.max(1, height.value - EDGE), EDGE],
).clamp(true))
const claims = computed(() => props.ladder.claims.map(claim => ({ ...claim, y: y.value(claim.printed) })))
const ceilings = computed(() => {
  const [low = 0, high = 0] = y.value.domain()
  return props.ladder.ceilings.filter(one => one.magnification > low && one.magnification < high)
    .map(one => ({ ...one, y: y.value(one.magnification), label: `${one.title} ${one.magnification.toFixed(0)}×` }))
})
const bands = computed(() => props.ladder.bands.map(band => {
  const top = band.high_magnification ? y.value(band.high_magnification) : EDGE
  const bottom = band.low_magnification ? y.value(band.low_magnification) : height.value - EDGE
  const range = band.high_mm === null ? `over ${band.low_mm.toFixed(1)} mm`
    : band.low_mm === 0 ? `under ${band.high_mm} mm` : `${band.high_mm.toFixed(1)}–${band.low_mm.toFixed(1)} mm`
  return { ...band, top, bottom, tall: Math.max(0, bottom - top), range }
}).filter(band => band.tall > 2))
/** What stands at the right edge: limits before claims, those before what a band is for. */
const edgeWords = computed(() => isNarrow.value ? [] : placeWords([
  ...ceilings.value.map(one => ({
    key: one.name, words: one.label, y: one.y - 5, top: one.y - 24, bottom: one.y + 24, weight: one.name === 'air' ? 5 : 4, isOnLine: true, kind: `limit ${one.name}`,
  })),
  ...claims.value.map((one, n) => ({
    key: `box ${n}`, words: `box: ${one.printed.toFixed(0)}×`, y: one.y - 5, top: one.y - 24, bottom: one.y + 24, weight: 3, isOnLine: true, kind: one.holds ? 'claim' : 'claim struck',
  })),
  ...bands.value.flatMap(({ band, words, range, top, bottom }) => [
    { key: band, words, y: top + 17, top: top + 10, bottom: bottom - 3, weight: 2, kind: 'band-word' },
    { key: `${band} mm`, words: range, y: top + 33, top: top + 10, bottom: bottom - 3, weight: 1, kind: 'band-range figures', under: band },
  ]),
], EDGE, height.value - EDGE))
/** Labels of rungs end where the words at the edge begin. */
const LETTER_PX = 7.3
const widest = computed(() => Math.max(0, ...edgeWords.value.map(one => one.words.length)) * 6.6 + 14)
const labelRoom = computed(() => width.value - rails.value[1] - (isNarrow.value ? 14 : 20) - widest.value)
const weights = (key: string, amplified: boolean) => key === props.selectedKey ? 3 : amplified ? 1 : 2
const labels = computed(() => spreadLabels(
  props.ladder.rungs.map(rung => ({
    key: rung.key, y: y.value(rung.magnification), weight: weights(rung.key, rung.amplifier_ids.length > 0),
  })),
  gap.value, EDGE + gap.value / 2 - 2, height.value - EDGE - gap.value / 2 + 2,
))
const placed = computed(() => props.ladder.rungs.map(rung => ({
  key: rung.key, label: rung.label, shown: fitted(rung.label, labelRoom.value, isNarrow.value ? 6.3 : LETTER_PX), magnification: rung.magnification, is_amplified: rung.amplifier_ids.length > 0,
  y: y.value(rung.magnification), label_y: labels.value.get(rung.key),
})))
/** Only rungs with room for a label are elements of their own; the rest is one path, however many there are. */
const rungs = computed(() => placed.value.filter(rung => rung.label_y !== undefined))
const bare = computed(() => placed.value.filter(rung => rung.label_y === undefined)
  .map(rung => `M${rails.value[0] - 2} ${rung.y}H${rails.value[1] + 2}`).join(''))
const byKey = computed(() => new Map(props.ladder.rungs.map(rung => [rung.key, y.value(rung.magnification)])))
const twins = computed(() => props.ladder.twins.map(twin => {
  const places = twin.keys.map(key => byKey.value.get(key) ?? 0)
  return { top: Math.min(...places), bottom: Math.max(...places), key: twin.keep }
}))
const gaps = computed(() => props.ladder.gaps.map(gap => ({
  key: gap.below, top: byKey.value.get(gap.above) ?? 0, bottom: byKey.value.get(gap.below) ?? 0, ratio: gap.ratio,
})))

/** The rung one stands on is in sight. */
watch([() => props.selectedKey, isTaller], async () => {
  await nextTick()
  if (isTaller.value) svg.value?.querySelector('.selected')?.scrollIntoView({ block: 'nearest' })
}, { immediate: true })
/** Dragging along the ladder climbs it; where it is taller than its room, dragging scrolls it and a press chooses. */
function onPointer (event: PointerEvent) {
  if (event.type === 'pointermove' && (event.buttons !== 1 || isTaller.value)) return
  if (event.type === 'pointerdown' && isTaller.value) return
  choose(event.clientY)
}
function choose (clientY: number) {
  const at = clientY - (svg.value?.getBoundingClientRect().top ?? 0)
  const nearest = (rung: typeof placed.value[number]) => Math.abs((rung.label_y ?? rung.y) - at)
  const best = placed.value.reduce((one, other) => nearest(other) < nearest(one) ? other : one)
  if (best.key !== props.selectedKey) emit('select', best.key)
}
function onKey (event: KeyboardEvent) {
  const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 4, PageDown: -4, Home: -placed.value.length, End: placed.value.length }[event.key]
  if (by === undefined) return
  event.preventDefault()
  emit('step', by)
}
function gapArrow ({ top, bottom }: { top: number, bottom: number }): string {
  const x = rails.value[0] + 18
  return `M${x} ${top + 5}V${bottom - 5}m-5 -7l5 7l5 -7M${x} ${top + 5}m-5 7l5 -7l5 7`
}
function leaders ({ y, label_y = y }: { y: number, label_y: number | undefined }): string {
  return `M${rails.value[0] - 9} ${y}L${rails.value[0] - 13} ${label_y}M${rails.value[1] + 10} ${y}L${rails.value[1] + 17} ${label_y}`
}
</script>

<template>
  <div ref="host" class="ladder">
    <svg
      ref="svg" :width="width" :height="height" role="listbox" :class="{ taller: isTaller }" tabindex="0"
      aria-label="Ladder of powers"
      :aria-activedescendant="selectedKey ? `rung-${selectedKey}` : undefined"
      @keydown="onKey"
      @pointerdown="onPointer" @pointermove="onPointer"
      @click="isTaller && choose($event.clientY)"
    >
      <g v-for="band in bands" :key="band.band">
        <rect x="0" :y="band.top" :width="width" :height="band.tall" :class="['band', band.band]" />
      </g>
      <line v-for="x in rails" :key="x" :x1="x" :x2="x" :y1="EDGE - 8" :y2="height - EDGE + 8" class="rail" />
      <g v-for="step in gaps" :key="step.key" class="gap">
        <path
          :d="gapArrow(step)"
          />
        <text v-if="!isNarrow" :x="rails[0] + 26" :y="(step.top + step.bottom) / 2 + 5"
          class="figures">{{ step.ratio.toFixed(1) }}×</text>
      </g>
      <rect v-for="twin in twins" :key="twin.key" :x="(rails[0] + rails[1]) / 2 - 5" :y="twin.top - 4" width="10"
        :height="twin.bottom - twin.top + 8" rx="5" class="twin" />
      <g v-for="ceiling in ceilings" :key="ceiling.name" :class="['ceiling', ceiling.name]">
        <line :x1="isNarrow ? rails[0] - 6 : rails[1] + LABEL_WIDTH" :x2="isNarrow ? rails[1] + 8 : width"
          :y1="ceiling.y" :y2="ceiling.y" />
      </g>
      <path v-if="bare" :d="bare" class="bare" />
      <g v-for="claim in claims" :key="claim.claim" class="claim">
        <line :x1="isNarrow ? rails[0] - 6 : rails[1] + LABEL_WIDTH" :x2="isNarrow ? rails[1] + 8 : width"
          :y1="claim.y" :y2="claim.y" />
      </g>
      <g
        v-for="rung in rungs" :id="`rung-${rung.key}`" :key="rung.key" role="option"
        :aria-selected="rung.key === selectedKey"
        :aria-label="`${rung.magnification.toFixed(0)}× ${rung.label}`"
        class="rung" :class="{ narrow: isNarrow, amplified: rung.is_amplified, selected: rung.key === selectedKey }"
      >
        <rect x="0" :y="(rung.label_y ?? rung.y) - gap / 2" :width="width" :height="gap" class="touch" />
        <line :x1="rails[0] - 8" :x2="rails[1] + 8" :y1="rung.y" :y2="rung.y" class="step" />
        <template v-if="rung.label_y !== undefined">
          <path
            :d="leaders(rung)"
            class="lead" />
          <text :x="rails[0] - 15" :y="rung.label_y + 5" text-anchor="end"
            class="power figures">{{ rung.magnification.toFixed(0) }}×</text>
          <text :x="rails[1] + (isNarrow ? 14 : 20)" :y="rung.label_y + 5" class="combination">{{ rung.shown }}</text>
        </template>
      </g>
      <text v-for="one in edgeWords" :key="`word-${one.key}`" :x="width - 8" :y="one.y"
        text-anchor="end" :class="['edge-word', one.kind]">{{ one.words }}</text>
    </svg>
  </div>
</template>

<style scoped>
.ladder { height: 100%; min-height: 320px; overflow: hidden auto; }
svg { display: block; outline-offset: -3px; touch-action: pan-x; user-select: none; }
.taller { touch-action: pan-y; }
.band { fill: var(--jade-wash); }
.wasted, .empty { fill: var(--brass-wash); }
.widest, .all_round { opacity: 0.6; }
.fine { opacity: 0.35; }
.rail { stroke: var(--ink); stroke-width: 5; stroke-linecap: round; }
.step { stroke: var(--ink); stroke-width: 4; stroke-linecap: round; }
.amplified .step { stroke-dasharray: 8 6; stroke-width: 3; }
.selected .step { stroke: var(--jade); stroke-width: 9; stroke-dasharray: none; }
.selected .power, .selected .combination { fill: var(--jade); font-weight: 800; }
.lead { stroke: var(--ink-quiet); fill: none; }
.power, .combination { font-size: 15px; paint-order: stroke; }
.rung { cursor: pointer; }
.bare { stroke: var(--ink-quiet); stroke-width: 1; fill: none; }
.claim line { stroke: var(--ink-quiet); stroke-width: 1.5; }
.struck { text-decoration: line-through; text-decoration-thickness: 2px; }
.touch { fill: transparent; }
.rung:hover .touch { fill: var(--jade); opacity: 0.12; }
.twin { fill: var(--brass); }
.gap path { stroke: var(--brass); stroke-width: 2; fill: none; }
.gap text { font-size: 13px; fill: var(--brass-ink); font-weight: 700; }
.ceiling line { stroke: var(--ink-quiet); stroke-dasharray: 2 5; stroke-width: 1.5; }
.ceiling.air line { stroke: var(--brass); stroke-width: 2.5; stroke-dasharray: 7 4; }
.edge-word { font-size: 13px; fill: var(--ink-quiet); paint-order: stroke; stroke: var(--ground); stroke-width: 3px; }
.edge-word.band-range, .edge-word.limit { font-size: 12.5px; }
.edge-word.air { font-size: 13.5px; font-weight: 700; fill: var(--brass-ink); stroke-width: 4px; }
.narrow .power, .narrow .combination { font-size: 13px; }
</style>
