<script setup lang="ts">
import { computed, onMounted, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useStepValues } from '../drafts'
import NorthDial from '@/drawings/dials/NorthDial.vue'
import NumberField from '@/shell/NumberField.vue'
import AdvicePanel from '../AdvicePanel.vue'
import LiveLine from '../LiveLine.vue'
import StandIn from '../StandIn.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '@/stores/bench'
import { useInstrument } from '../instrument'

const EMPTY = { compass_deg: '', read_deg: '', known_deg: '', drift_arcmin: '', drift_minutes: '', scale_deg: '', altitude_deg: '' }
const props = defineProps<{ bench: Bench }>()
const { answer: board, refusal: boardRefusal, load } = useAsked(() => call<Schema<'NorthBoard'>>('/setup/north'), ['evening', 'kit', 'clock'])
type Method = 'compass' | 'polaris' | 'shadow' | 'landmark' | 'drift'
const text = (value: unknown) => String(value ?? '')
const { values: typed, part, settle } = useStepValues<typeof EMPTY & { method: Method, nearIron: boolean }, Partial<Schema<'NorthInput'>>>(
  props, 'north', () => ({ ...EMPTY, method: 'compass', nearIron: false }), one => ({
    method: one.method ?? 'compass', nearIron: !!one.near_iron, compass_deg: one.method === 'compass' && one.source !== 'live' ? text(one.read_deg) : '',
    read_deg: one.method === 'landmark' ? text(one.read_deg) : '', known_deg: text(one.known_deg), drift_arcmin: text(one.drift_arcmin),
    drift_minutes: text(one.drift_minutes), scale_deg: text(one.scale_deg), altitude_deg: text(one.altitude_deg),
  }),
)
const [method, nearIron] = [part('method'), part('nearIron')]
const { shown, settled, isOn, isLost, start, stop } = useInstrument('compass')
const isEquatorial = computed(() => board.value?.has_polar_axis ?? false)
const WAYS = { compass: 'Compass', polaris: 'Polaris', shadow: 'Shadow', landmark: 'Landmark', drift: 'Star drift' } as const
/** What the live compass reads, as text like a typed one; null without it. */
const liveDeg = computed(() => isOn.value ? settled.value?.values?.[0]?.toFixed(1) ?? null : null)
const input = computed(() => {
  const { read_deg, known_deg, drift_arcmin, drift_minutes, scale_deg, altitude_deg } = typed.value
  const compass_deg = isOn.value ? liveDeg.value ?? '' : typed.value.compass_deg
  const scale = isEquatorial.value && scale_deg.trim() ? { scale_deg } : {}
  if (method.value === 'landmark') return read_deg.trim() && known_deg.trim() ? { method: method.value, read_deg, known_deg, altitude_deg: altitude_deg.trim() || null, ...scale } : null
  if (method.value === 'drift') return drift_arcmin.trim() && drift_minutes.trim() ? { method: method.value, drift_arcmin, drift_minutes, ...scale } : null
  if (method.value === 'compass') return { method: method.value, near_iron: nearIron.value, ...(compass_deg.trim() ? { read_deg: compass_deg, source: isOn.value ? 'live' : 'typed' } : {}), ...scale }
  return { method: method.value, ...scale }
})
const { advice, refusal, record } = useAdvice<Schema<'NorthAdvice'>>('north', input, { waitMs: 250, recorded: settle })
onMounted(load)
watch(method, now => { if (now !== 'compass') stop() })
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="North and pole">
      <StepHead />
      <v-btn-toggle role="group"
        v-model="method" mandatory divided variant="outlined" class="ways" aria-label="How to find north">
        <v-btn v-for="(word, name) in WAYS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <p v-if="boardRefusal" role="alert">{{ boardRefusal.words }}</p>
      <template v-if="board">
        <p v-if="method === 'compass'" class="how">{{ board.magnetic_words }}</p>
        <p v-else-if="method === 'polaris'" class="how">{{ board.polaris_words }}</p>
        <p v-else-if="method === 'shadow'" class="how">
          {{ board.shadow.words }}
          {{ board.shadow.noon_words }} Never look at the Sun.
        </p>
        <p v-else-if="method === 'landmark'" class="how">Aim at something of known true bearing, read the circle, type
          both.</p>
        <p v-else class="how">Follow a star near the meridian,
          {{ board.pole_is_south ? 'in the north' : 'in the south' }}, with one axis only; see how far it leaves
          toward the north.</p>
        <div class="drawing"><NorthDial :board="board" :live-deg="shown?.values?.[0] ?? null"
          :error-deg="liveDeg === null ? advice?.azimuth_error_deg ?? null : null" /></div>
        <template v-if="method === 'compass'">
          <div class="row">
            <v-btn
              @click="isOn ? stop() : start()">{{ isOn ? 'Stop the live compass' : 'Use the live compass' }}</v-btn>
            <NumberField
              :model-value="liveDeg ?? typed.compass_deg" class="compass" label="It reads" unit="°"
              :readonly="liveDeg !== null"
              :error-messages="refusal?.for('read_deg')" @update:model-value="typed.compass_deg = String($event)"
            />
            <v-switch v-model="nearIron" color="primary" label="Iron nearby" />
          </div>
          <LiveLine v-if="isOn" :shown="shown" :is-lost="isLost" />
          <StandIn v-if="isOn" kind="compass" />
        </template>
        <form v-if="method === 'landmark' || method === 'drift'" class="fields" novalidate @submit.prevent>
          <template v-if="method === 'landmark'">
            <NumberField v-model="typed.known_deg" label="True bearing" unit="°"
              :error-messages="refusal?.for('known_deg')" />
            <NumberField v-model="typed.read_deg" label="The circle reads" unit="°"
              :error-messages="refusal?.for('read_deg')" />
            <NumberField v-model="typed.altitude_deg" label="It stands (up)" unit="°"
              hint="Empty: anywhere up to 10°." :error-messages="refusal?.for('altitude_deg')" />
          </template>
          <template v-if="method === 'drift'">
            <NumberField v-model="typed.drift_arcmin" label="Drift to the north" unit="′"
              hint="Negative: to the south."
              :error-messages="refusal?.for('drift_arcmin')" />
            <NumberField v-model="typed.drift_minutes" label="in" unit="min"
              :error-messages="refusal?.for('drift_minutes')" />
          </template>
        </form>
      </template>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal"
      :record="advice?.is_done ? 'North is set' : advice ? 'Record as it is' : undefined"
      prompt="Measure, then type both numbers." @record="record">
      <template v-if="isEquatorial && board">
        <p>{{ board.scale_words }}</p>
        <NumberField v-model="typed.scale_deg" class="scale" label="The altitude scale reads" unit="°"
          :error-messages="refusal?.for('scale_deg')" />
      </template>
      <ol v-if="board" class="order small"><li v-for="one in board.order" :key="one">{{ one }}</li></ol>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.how { font-size: 17px; border-left: 5px solid var(--jade); padding-left: 12px; flex: none; }
.row { display: flex; gap: 16px; align-items: center; flex-wrap: wrap; flex: none; }
.row > .v-switch { flex: none; }
.scale { flex: none; }
.compass { max-width: 130px; }
.order { margin: 0; padding-left: 20px; display: grid; gap: 4px; }
</style>
