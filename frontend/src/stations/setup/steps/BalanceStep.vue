<script setup lang="ts">
import { computed, ref, type Ref } from 'vue'
import type { Schema } from '@/api/client'
import FieldForm from '@/shell/FieldForm.vue'
import { asTyped, type Field } from '@/shell/fields'
import { useStepValues } from '../drafts'
import AdvicePanel from '../AdvicePanel.vue'
import NumbersToggle from '../NumbersToggle.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
type Input = Schema<'BalanceInput'>
interface Said { extra_g: string, behind_pivot_mm: string, caps_counted: string, caps_on: boolean, sinks: 'front' | 'back' | 'stays' | null }
const typed = (value: number | null | undefined) => String(value ?? '')
const { values: said, part, settle } = useStepValues<Said, Input>(
  props, 'balance', () => ({ extra_g: '', behind_pivot_mm: '', caps_counted: '', caps_on: false, sinks: null }),
  ({ extra_g, behind_pivot_mm, caps_counted, caps_on, sinks }) => ({
    extra_g: extra_g ? typed(extra_g) : '', behind_pivot_mm: typed(behind_pivot_mm), caps_counted: typed(caps_counted), caps_on: !!caps_on, sinks: sinks ?? null,
  }),
)
const values = said as unknown as Ref<Record<string, unknown>>
const FIELDS: Field[] = [
  { key: 'extra_g', label: 'Change of load', unit: 'g', optional: true, hint: 'Negative when something came off.' },
  { key: 'behind_pivot_mm', label: 'Behind the pivot', unit: 'mm', measure: 'hand', hint: 'Empty: where the eyepiece is.' },
  { key: 'caps_counted', label: 'Caps in the case', unit: 'caps', optional: true },
]
const showsNumbers = ref(false)
/** What the tube does when it is let go; a load in grams is for who has a scale. */
const sinks = part('sinks')
const hasLoad = computed(() => !!String(values.value.extra_g ?? '').trim())
const { advice, refusal, record } = useAdvice<Schema<'BalanceAdvice'>>('balance', () => ({
  ...asTyped(FIELDS, values.value), caps_on: values.value.caps_on, sinks: hasLoad.value ? null : sinks.value,
}), { recorded: settle })
async function stays () {
  sinks.value = 'stays'
  await record()
}
const MOST_SHIFT_PX = 130
const shift = computed(() => Math.max(-MOST_SHIFT_PX, Math.min(MOST_SHIFT_PX, (advice.value?.slide_forward_mm ?? 0) * 1.4)))
const lean = computed(() => ({ front: 9, back: -9, stays: 0 })[sinks.value ?? 'stays'])
const load = computed(() => Math.max(-200, Math.min(200, (advice.value?.behind_pivot_mm ?? 0) * 0.42)))
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Balance and fit">
      <StepHead />
      <div class="drawing">
        <svg viewBox="-300 -150 600 270" class="beam" role="img"
          :aria-label="`The tube on its pivot. ${advice?.note ?? ''}`">
          <path d="M0 14L-34 96H34z" class="pivot" />
          <line x1="-260" x2="260" y1="97" y2="97" class="ground" />
          <rect x="-210" y="-34" width="420" height="48" rx="6" class="tube old" />
          <rect :x="-210 + shift" y="-34" width="420" height="48" rx="6" class="tube"
            :transform="`rotate(${lean})`" />
          <g v-if="Math.abs(shift) > 2" :transform="`translate(${shift > 0 ? 215 : -215} -60)`">
            <path :d="shift > 0 ? 'M-40 0H30m-14 -10l14 10l-14 10' : 'M40 0H-30m14 -10l-14 10l14 10'" class="way" />
          </g>
          <g v-if="hasLoad" :transform="`translate(${-load + shift} -54)`"><rect x="-16" y="-16" width="32"
            height="34" rx="5" class="load" /><text y="-26" text-anchor="middle" class="word">load</text></g>
          <text x="270" y="-110" class="word" text-anchor="end">the sky is on this side →</text>
          <text x="0" y="116" text-anchor="middle" class="word">pivot</text>
        </svg>
      </div>
      <v-switch v-model="values.caps_on" color="primary" label="Caps are on tube and finder" class="caps" />
      <div class="answers" role="group" aria-label="What the tube does when it is let go">
        <v-btn size="large" color="primary" variant="flat" @click="stays">It stays</v-btn>
        <v-btn size="large" :aria-pressed="sinks === 'front'" @click="sinks = 'front'">The front sinks</v-btn>
        <v-btn size="large" :aria-pressed="sinks === 'back'" @click="sinks = 'back'">The back sinks</v-btn>
      </div>
      <NumbersToggle v-model="showsNumbers" />
      <form v-if="showsNumbers || hasLoad" class="fields" novalidate @submit.prevent><FieldForm
        v-model="values" :fields="FIELDS" :refusal="refusal" /></form>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal" :record="hasLoad ? 'It stays put' : undefined"
      @record="record" />
  </div>
</template>

<style scoped>
.caps { flex: none; }
@media (max-width: 699px) { .drawing { order: 5; } }
.answers { display: flex; gap: 10px; flex-wrap: wrap; flex: none; }
.beam { width: 100%; height: 100%; }
.pivot { fill: var(--surface); stroke: var(--ink); stroke-width: 4; stroke-linejoin: round; }
.ground { stroke: var(--ink); stroke-width: 3; }
.tube { fill: var(--jade-wash); stroke: var(--jade); stroke-width: 4; }
.old { fill: none; stroke: var(--ink-quiet); stroke-width: 2; stroke-dasharray: 6 5; }
.load { fill: var(--brass-wash); stroke: var(--brass); stroke-width: 3; }
.way { fill: none; stroke: var(--brass); stroke-width: 5; }
.word { font-size: 15px; }
</style>
