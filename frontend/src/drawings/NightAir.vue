<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { area, curveMonotoneX, line } from 'd3-shape'
import { computed, ref } from 'vue'
import { clockTime } from '@/shell/time'
import { useWidth } from '@/shell/width'
import { useUnits } from '@/stores/units'
import type { JudgedHour } from '@/stores/weather'

/** The air of a night: clouds hang from above, air and dew point close in, pennants show the wind. */
const props = defineProps<{ hours: readonly JudgedHour[], zone: string }>()
const chosen = defineModel<string | null>({ required: true })
const units = useUnits()
const host = ref<HTMLElement | null>(null)
const room = useWidth(host)
const LEFT = 70
const LEAST = 48
const HEIGHT = 322
const SKY = { top: 22, deep: 92 }
const AIR = { top: 132, low: 196 }
const WIND = 226
const ROWS = { steadiness: 258, transparency: 280, hour: 306 }
const step = computed(() => Math.max(LEAST, (room.value - LEFT - 8) / Math.max(1, props.hours.length)))
const width = computed(() => LEFT + step.value * props.hours.length + 8)
const middle = (n: number) => LEFT + (n + 0.5) * step.value
const cols = computed(() => props.hours.map((one, n) => ({
  ...one, n, x: middle(n), left: LEFT + n * step.value, hourUtc: one.hour.hour_utc, words: clockTime(one.hour.hour_utc, props.zone),
})))
/** Stretches of hours that all know a value, so that nothing is drawn across a hole. */
function stretches (knows: (one: JudgedHour) => boolean) {
  const found: (typeof cols.value)[] = []
  let open = false
  for (const one of cols.value) {
    if (!knows(one)) open = false
    else if (open) found[found.length - 1]!.push(one)
    else {
      found.push([one])
      open = true
    }
  }
  return found
}
type Col = (typeof cols.value)[number]
const flat = (part: readonly Col[]) => part.flatMap((one, n) => [
  ...n === 0 ? [{ ...one, x: one.left }] : [], one, ...n === part.length - 1 ? [{ ...one, x: one.left + step.value }] : [],
])
const deep = scaleLinear([0, 100], [SKY.top, SKY.deep])
const curtain = area<Col>().x(one => one.x).y0(SKY.top).y1(one => deep(one.hour.cloud_percent ?? 0)).curve(curveMonotoneX)
const curtains = computed(() => stretches(one => one.hour.cloud_percent !== null).map(part => curtain(flat(part)) ?? ''))
const airs = computed(() => props.hours.flatMap(one => [one.hour.air_c ?? null, one.dew_point_c]).filter((one): one is number => one !== null))
const warmth = computed(() => scaleLinear([Math.min(...airs.value) - 1, Math.max(...airs.value) + 1], [AIR.low, AIR.top]))
const knowsAir = (one: JudgedHour) => one.hour.air_c !== null && one.dew_point_c !== null
const airLine = computed(() => line<Col>().x(one => one.x).y(one => warmth.value(one.hour.air_c!)).curve(curveMonotoneX))
const dewLine = computed(() => line<Col>().x(one => one.x).y(one => warmth.value(one.dew_point_c!)).curve(curveMonotoneX))
const between = computed(() => area<Col>().x(one => one.x).y0(one => warmth.value(one.dew_point_c!))
  .y1(one => warmth.value(one.hour.air_c!)).curve(curveMonotoneX))
const air = computed(() => stretches(knowsAir).map(part => ({ air: airLine.value(flat(part)) ?? '', dew: dewLine.value(flat(part)) ?? '' })))
const wet = computed(() => stretches(one => knowsAir(one) && one.dew_near).map(part => between.value(flat(part)) ?? ''))
const ends = computed(() => {
  const part = stretches(knowsAir)[0]
  return part?.[0] ? { air: warmth.value(part[0].hour.air_c!), dew: warmth.value(part[0].dew_point_c!) } : null
})
const reach = computed(() => Math.min(step.value - 14, 36))
const pennant = (one: Col) => {
  const long = Math.max(5, Math.min(1, (one.hour.wind_m_s ?? 0) / 12) * reach.value)
  return `M${one.x - reach.value / 2} ${WIND + 12}V${WIND - 10}l${long} 5l${-long} 5`
}
const whole = (value: number | null | undefined) => value === null || value === undefined ? '–' : value.toFixed(0)
const label = (one: Col) => [
  `${one.words}: ${one.state}`,
  `cloud ${whole(one.hour.cloud_percent)} %`, `wind ${units.windWords(one.hour.wind_m_s ?? null)}`,
  `air ${one.hour.air_c === null || one.hour.air_c === undefined ? 'not known' : `${units.airWords(one.hour.air_c)} ${units.airUnit}`}`,
  `steadiness ${whole(one.hour.steadiness)}`, `transparency ${whole(one.hour.transparency)}`,
  ...one.hour.typed?.length ? ['typed over'] : [],
].join(', ')
function onKey (event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  const at = props.hours.findIndex(one => one.hour.hour_utc === chosen.value)
  const next = by === undefined ? undefined : props.hours[Math.min(props.hours.length - 1, Math.max(0, at + by))]
  if (!next) return
  event.preventDefault()
  chosen.value = next.hour.hour_utc
  host.value?.querySelector<SVGElement>(`[data-hour="${next.hour.hour_utc}"]`)?.focus()
}
</script>

<template>
  <div ref="host" class="air">
    <svg :width="width" :height="HEIGHT" role="radiogroup" aria-label="Hours of the night" @keydown="onKey">
      <rect v-for="one in cols" :key="`${one.hourUtc}l`" :x="one.left" y="6" :width="step" height="8"
        :class="one.light" />
      <rect v-for="one in cols.filter(col => col.hourUtc === chosen)" :key="one.hourUtc" :x="one.left" y="16"
        :width="step" :height="HEIGHT - 18" rx="6" class="chosen" />
      <line :x1="LEFT" :x2="width - 8" :y1="SKY.top" :y2="SKY.top" class="edge" />
      <path v-for="d in curtains" :key="d" :d="d" class="cloud" />
      <path v-for="d in wet" :key="d" :d="d" class="wet" />
      <g v-for="part in air" :key="part.air"><path :d="part.air" class="warm" /><path :d="part.dew" class="dew" /></g>
      <text x="4" :y="SKY.top + 14" class="name">Cloud</text>
      <text v-if="ends" x="4" :y="Math.min(ends.air + 4, ends.dew - 11)" class="name">Air</text>
      <text v-if="ends" x="4" :y="ends.dew + 4" class="name quiet">Dew point</text>
      <text x="4" :y="WIND + 4" class="name">Wind</text>
      <text x="4" :y="ROWS.steadiness" class="name">Steady</text>
      <text x="4" :y="ROWS.transparency" class="name">Clear air</text>
      <g v-for="one in cols" :key="one.hourUtc">
        <text v-if="one.hour.cloud_percent === null || one.hour.cloud_percent === undefined" :x="one.x"
          :y="SKY.top + 32" text-anchor="middle" class="hole">?</text>
        <text v-else :x="one.x" :y="deep(one.hour.cloud_percent) + 16" text-anchor="middle" class="figures">{{
          whole(one.hour.cloud_percent) }} %</text>
        <template v-if="one.hour.air_c !== null && one.hour.air_c !== undefined"><text :x="one.x"
          :y="warmth(one.hour.air_c) - 6" text-anchor="middle" class="figures">{{
          units.airWords(one.hour.air_c) }}°</text></template>
        <template v-if="one.hour.wind_m_s !== null && one.hour.wind_m_s !== undefined">
          <path :d="pennant(one)" class="pennant" :class="{ shakes: one.shakes }" />
          <text :x="one.x + reach / 2" :y="WIND + 12" text-anchor="end" class="figures"
            :class="{ strong: one.shakes }">{{ units.wind(one.hour.wind_m_s).toFixed(0) }}</text>
        </template>
        <text :x="one.x" :y="ROWS.steadiness" text-anchor="middle" class="figures">{{ whole(one.hour.steadiness)
          }}</text>
        <text :x="one.x" :y="ROWS.transparency" text-anchor="middle" class="figures">{{ whole(one.hour.transparency)
          }}</text>
        <text :x="one.x" :y="ROWS.hour" text-anchor="middle" class="figures hour"
          :class="{ strong: one.hour.typed?.length }">{{ one.words.replace(':00', '') }}{{ one.hour.typed?.length ?
            ' ✎' : '' }}</text>
        <line :x1="one.left + 3" :x2="one.left + step - 3" :y1="HEIGHT - 6" :y2="HEIGHT - 6"
          :class="['state', one.state.replace(' ', '-'), { off: !one.is_dark }]" />
        <rect :x="one.left" y="0" :width="step" :height="HEIGHT" class="hit" role="radio" :data-hour="one.hourUtc"
          :aria-checked="one.hourUtc === chosen" :aria-label="label(one)"
          :tabindex="one.hourUtc === (chosen ?? cols[0]?.hourUtc) ? 0 : -1" @click="chosen = one.hourUtc"
          @keydown.enter="chosen = one.hourUtc" @keydown.space.prevent="chosen = one.hourUtc" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.air { width: 100%; flex: none; overflow-x: auto; overflow-y: hidden; }
svg { display: block; }
text { font-size: 13px; fill: var(--ink); }
.name { font-size: 13px; } .quiet { fill: var(--ink-quiet); }
.hour { font-size: 14px; } .strong { font-weight: 700; }
.hole { font-size: 18px; fill: var(--ink-quiet); }
.day { fill: var(--light-day); } .civil { fill: var(--light-civil); } .nautical { fill: var(--light-nautical); }
.astronomical { fill: var(--light-astronomical); } .dark { fill: var(--light-dark); stroke: var(--line); stroke-width: 0.5; }
.chosen { fill: var(--jade-wash); }
.edge { stroke: var(--ink-quiet); }
.cloud { fill: var(--ink-quiet); fill-opacity: 0.28; stroke: var(--ink-quiet); stroke-width: 1.5; }
.warm, .dew { fill: none; stroke: var(--ink); stroke-width: 2; } .dew { stroke: var(--ink-quiet); stroke-dasharray: 5 4; }
.wet { fill: var(--brass); fill-opacity: 0.35; }
.pennant { fill: none; stroke: var(--jade); stroke-width: 1.5; } .pennant.shakes { fill: var(--brass); stroke: var(--brass); }
.state { stroke-width: 6; stroke: var(--line); } .state.clear { stroke: var(--jade); } .state.gaps { stroke: var(--jade); stroke-dasharray: 5 4; }
.state.not-known { stroke-dasharray: 2 5; } .state.off { stroke-width: 2; }
.hit { fill: transparent; cursor: pointer; }
.hit:focus-visible { outline: 3px solid var(--jade); outline-offset: -3px; }
</style>
