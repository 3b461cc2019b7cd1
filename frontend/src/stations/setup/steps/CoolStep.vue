<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { useEvening } from '@/stores/evening'
import { useUnits } from '@/stores/units'
import FieldForm from '@/shell/FieldForm.vue'
import HonestMark from '@/shell/HonestMark.vue'
import { asTyped, type Field } from '@/shell/fields'
import { clockTime, fromLocalStamp, localStamp } from '@/shell/time'
import { useStepValues } from '../drafts'
import AdvicePanel from '../AdvicePanel.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
const evening = useEvening()
const units = useUnits()
/** Whose air: a thermometer's once somebody read one, until then that of the weather hours. */
const { values, settle } = useStepValues<Record<string, unknown>, Schema<'CoolInput'>>(
  props, 'cool', () => ({ source: 'forecast', air_c: '', humidity_percent: '', tube_c: String(props.bench.room_c), out_at: '' }),
  ({ weather, tube_c, out_at_utc }) => ({
    source: weather ? 'read' : 'forecast', air_c: String(weather?.air_c ?? ''), humidity_percent: String(weather?.humidity_percent ?? ''),
    tube_c: String(tube_c ?? props.bench.room_c), out_at: out_at_utc ? localStamp(out_at_utc, evening.zone) : '',
  }),
)
const SOURCES = computed(() => [
  { title: 'a thermometer', value: 'read' },
  { title: props.bench.forecast.source === 'simulated' ? 'simulation' : 'the weather hours', value: 'forecast' },
])
const isRead = computed(() => values.value.source === 'read')
const AIR_FIELDS: Field[] = [
  { key: 'air_c', label: 'Air', unit: '°C', measure: 'air' },
  { key: 'humidity_percent', label: 'Humidity', unit: '%' },
]
const FIELDS = computed<Field[]>(() => [
  { key: 'source', label: 'Air from', options: SOURCES.value },
  ...(isRead.value ? AIR_FIELDS : []),
  { key: 'tube_c', label: 'Tube was at', unit: '°C', measure: 'air' },
  { key: 'out_at', label: 'It came out', hint: 'As 2027-02-13T17:10.' },
])
/** The air that counts: as read, or as the service has it. */
const air = computed(() => isRead.value ? { air_c: Number(values.value.air_c), humidity_percent: Number(values.value.humidity_percent) } : props.bench.forecast)
const input = computed(() => {
  const { air_c, humidity_percent, tube_c, out_at } = asTyped([...FIELDS.value, ...AIR_FIELDS], values.value)
  if (isRead.value && (air_c === null || humidity_percent === null)) return null
  return { weather: isRead.value ? { air_c, humidity_percent } : null, tube_c, out_at_utc: out_at ? fromLocalStamp(String(out_at), evening.zone) : null }
})
const { advice, refusal, record } = useAdvice<Schema<'CoolAdvice'>>('cool', input, { recorded: settle })
const scale = computed(() => {
  const one = advice.value
  const all = (one ? [one.dew_point_c, one.optics_c[0], air.value.air_c, Number(values.value.tube_c)] : [0, 20]).map(units.air)
  return scaleLinear([Math.min(...all) - 3, Math.max(...all) + 3], [30, 590]).nice()
})
/** What is drawn, in the unit people chose. */
const at = computed(() => advice.value && {
  dew: units.air(advice.value.dew_point_c), optics: advice.value.optics_c.map(units.air) as [number, number],
  air: units.air(air.value.air_c), tube: units.air(Number(values.value.tube_c)),
})
const scaleWords = computed(() => at.value && [
  `Dew point ${at.value.dew.toFixed(1)}`, `optics ${at.value.optics.map(one => one.toFixed(0)).join(' to ')}`,
  `air ${at.value.air.toFixed(1)}`, `tube ${at.value.tube.toFixed(0)} degrees`,
].join(', '))
const whenReady = computed(() => advice.value?.ready_at_utc
  ? `ready ${clockTime(advice.value.ready_at_utc, evening.zone)}` : `${advice.value?.cool_minutes.toFixed(0)} min`)
const share = computed(() => {
  const one = advice.value
  return one && one.cool_minutes > 0 && one.ready_at_utc ? Math.max(0, Math.min(1, 1 - one.minutes_left / one.cool_minutes)) : one?.is_done ? 1 : 0
})
async function outNow () {
  values.value = { ...values.value, out_at: localStamp(props.bench.now_utc, evening.zone) }
  await record()
}
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Cool-down and dew">
      <StepHead />
      <svg v-if="advice && at" viewBox="0 0 620 190" class="scale" role="img"
        :aria-label="scaleWords ?? ''">
        <rect :x="scale.range()[0]" y="82" :width="Math.max(0, scale(at.dew) - scale.range()[0]!)" height="26"
          class="wet" />
        <rect :x="scale(at.optics[0])" y="82" :width="Math.max(2, scale(at.optics[1]) - scale(at.optics[0]))"
          height="26" class="optics" />
        <line :x1="scale.range()[0]" :x2="scale.range()[1]" y1="108" y2="108" class="axis" />
        <g v-for="tick in scale.ticks(8)" :key="tick"><line :x1="scale(tick)" :x2="scale(tick)" y1="108" y2="114"
          class="axis" /><text :x="scale(tick)" y="131" text-anchor="middle"
          class="figures tick">{{ tick }}</text></g>
        <path :d="`M${scale(at.dew)} 82V52`" class="mark" /><text :x="scale(at.dew)" y="44" text-anchor="middle"
          class="word">dew point {{ at.dew.toFixed(1) }}</text>
        <path :d="`M${scale(at.air)} 108V34`" class="mark" /><text :x="scale(at.air) + 4" y="24" text-anchor="middle"
          class="word strong">air {{ at.air.toFixed(1) }} {{ units.airUnit }}</text>
        <path :d="`M${scale(at.tube)} 108V62`" class="mark" /><text :x="scale(at.tube)" y="52" text-anchor="middle"
          class="word">tube {{ at.tube.toFixed(0) }}</text>
        <text :x="scale(at.optics[0])" y="160" class="word">optics facing the sky run {{ at.optics[0].toFixed(0) }} to
          {{ at.optics[1].toFixed(0) }} {{ units.airUnit }}</text>
      </svg>
      <div v-if="advice" class="clock">
        <b>Cool-down</b>
        <div class="bar" role="progressbar" :aria-valuenow="Math.round(share * 100)" aria-valuemin="0"
          aria-valuemax="100" aria-label="Cool-down"><span :style="{ width: `${share * 100}%` }" /></div>
        <span
          class="figures">{{ whenReady }}</span>
      </div>
      <p v-if="advice" class="dew" :class="{ warns: advice.dew_warns }">{{ advice.dew_words }}</p>
      <form class="fields wide" novalidate @submit.prevent><FieldForm v-model="values" :fields="FIELDS"
        :refusal="refusal" /></form>
      <div class="row">
        <v-btn size="large" @click="outNow">It came out just now</v-btn>
        <p v-if="!isRead" class="small quiet">
          <HonestMark v-if="bench.forecast.source === 'simulated'" words="simulated weather" />
          <template v-else>{{ bench.forecast.words }}:</template>
          {{ units.air(bench.forecast.air_c).toFixed(0) }} {{ units.airUnit }}, {{ bench.forecast.humidity_percent }} %
          humidity{{ bench.forecast.source === 'simulated' ? ': nobody measured it' : '' }}.
          <router-link :to="{ path: '/plan', query: { tab: 'weather' } }">All hours</router-link></p>
      </div>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal" record="Record it"
      prompt="Type what your thermometer and hygrometer say." @record="record" />
  </div>
</template>

<style scoped>
.scale { width: 100%; max-width: 720px; flex: none; }
.wet { fill: var(--jade-wash); stroke: var(--jade); }
.optics { fill: var(--brass-wash); stroke: var(--brass); }
.axis, .mark { stroke: var(--ink-quiet); stroke-width: 2; fill: none; }
.tick { font-size: 13px; } .word { font-size: 14px; paint-order: stroke; stroke: var(--ground); stroke-width: 4px; } .strong { font-weight: 700; }
.clock { display: grid; grid-template-columns: auto 1fr auto; gap: 12px; align-items: center; max-width: 720px; flex: none; }
.bar { height: 18px; border: 2px solid var(--ink-quiet); border-radius: 9px; overflow: hidden; } .bar span { display: block; height: 100%; background: var(--jade); }
.dew { border-left: 5px solid var(--jade); padding-left: 10px; flex: none; } .warns { border-left-color: var(--brass); font-weight: 700; }
.wide { grid-template-columns: repeat(auto-fit, minmax(190px, 1fr)) !important; max-width: 720px; }
.row { display: flex; gap: 14px; align-items: center; flex-wrap: wrap; }
</style>
