<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schema } from '@/api/client'
import LevelDial from '@/drawings/dials/LevelDial.vue'
import StraightVial from '@/drawings/dials/StraightVial.vue'
import { azimuthOf } from '@/drawings/dials/compass'
import { mounts } from '@/api/items'
import NumberField from '@/shell/NumberField.vue'
import { useAttempt } from '@/shell/useAsked'
import { useKept } from '@/shell/kept'
import AdvicePanel from '../AdvicePanel.vue'
import LiveLine from '../LiveLine.vue'
import StandIn from '../StandIn.vue'
import NumbersToggle from '../NumbersToggle.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import { useStepValues } from '../drafts'
import type { Bench } from '@/stores/bench'
import { useInstrument } from '../instrument'

const props = defineProps<{ bench: Bench }>()
const WAYS = { round: 'Round vial', straight: 'Two straight vials', angles: 'Two angles', axes: 'Live level' } as const
type Way = keyof typeof WAYS | 'look'
const usual = useKept<keyof typeof WAYS>('level-way', 'round')
/** A mount pushed by hand needs one look; a bubble is there for who wants it. */
const way = ref<Way>(props.bench.level_by_eye ? 'look' : usual.value)
watch(way, now => { if (now !== 'look') usual.value = now })
const kept = useKept('level-vial', { vial_divisions: '3', first_foot_deg: '', axis_azimuth_deg: '0' })
const isVial = computed(() => way.value === 'round' || way.value === 'straight')
const showsNumbers = ref(false)
/** What was read; nothing is assumed before somebody pointed at it. */
interface Read {
  bubble: { divisions: number | string, azimuth_deg: number | string } | null
  looks: boolean | null
  /** Two angles as a phone or a digital level shows them, typed. */
  angles: { along_deg: string, across_deg: string }
  vials: { first: number, second: number } | null
  /** One division of the vial and the other numbers, where somebody measured them; empty is a usual one. */
  sensitivity: string
  radius: string
  pitch: string
}
const { part, settle } = useStepValues<Read, Schema<'LevelInput'>>(props, 'level', () => ({
  bubble: null, looks: null, angles: { along_deg: '', across_deg: '' }, vials: null,
  sensitivity: String(props.bench.vial_sensitivity_arcmin ?? ''), radius: String(props.bench.mount.foot_radius_mm ?? ''),
  pitch: props.bench.mount.levelling === 'screws' ? String(props.bench.mount.screw_pitch_mm ?? '') : '',
}), ({ reading }) => {
  if (reading.kind === 'look') return { looks: reading.looks_level }
  if (reading.kind === 'round') return { bubble: { divisions: reading.bubble_divisions, azimuth_deg: reading.bubble_azimuth_deg } }
  if (reading.kind === 'straight') return { vials: { first: reading.first_divisions, second: reading.second_divisions } }
  return reading.source === 'typed' ? { angles: { along_deg: String(reading.along_deg), across_deg: String(reading.across_deg) } } : {}
})
const [bubble, looks, angles, vials] = [part('bubble'), part('looks'), part('angles'), part('vials')]
const [sensitivity, radius, pitch] = [part('sensitivity'), part('radius'), part('pitch')]
const canKeep = ref(false)
watch(sensitivity, now => { canKeep.value = !!now.trim() })
const { refusal: keepRefusal, attempt } = useAttempt()
/** What is seen of the feet is a fact of the mount, and kept with it. */
async function keepMount (change: Partial<Bench['mount']>) {
  const { id, ...mount } = props.bench.mount
  if (id) await attempt(() => mounts.change(id, { ...mount, ...change }))
}
async function keepSensitivity () {
  await keepMount({ vial_sensitivity_arcmin: sensitivity.value.trim() as unknown as number })
  canKeep.value = !!keepRefusal.value
}
const { shown, settled, isOn, isLost, start, stop } = useInstrument('level')
watch(way, now => now === 'axes' ? start() : stop(), { immediate: true })

/** Foot 1 is on top of the drawing, unless somebody knows where it points. */
const count = computed(() => props.bench.mount.feet ?? 3)
const byBearing = computed(() => !!kept.value.first_foot_deg.trim())
const feet = computed(() => {
  const first = Number(kept.value.first_foot_deg)
  return Array.from({ length: count.value }, (_, n) => ((Number.isFinite(first) ? first : 0) + n * 360 / count.value) % 360)
})
const sent = computed(() => {
  if (!byBearing.value) return null
  return Number.isFinite(Number(kept.value.first_foot_deg)) ? feet.value : Array.from({ length: count.value }, () => kept.value.first_foot_deg)
})
const measured = computed(() => sensitivity.value.trim() ? { sensitivity_arcmin: sensitivity.value } : {})
const reading = computed(() => {
  if (way.value === 'look') return looks.value === null ? null : { kind: 'look', looks_level: looks.value }
  if (way.value === 'round') {
    return bubble.value && {
      kind: 'round', bubble_divisions: bubble.value.divisions, bubble_azimuth_deg: bubble.value.azimuth_deg,
      vial_divisions: kept.value.vial_divisions, ...measured.value,
    }
  }
  if (way.value === 'straight') {
    return vials.value && { kind: 'straight', first_divisions: vials.value.first, second_divisions: vials.value.second, ...measured.value }
  }
  const axis_azimuth_deg = kept.value.axis_azimuth_deg
  if (way.value === 'angles') {
    const { along_deg, across_deg } = angles.value
    return along_deg.trim() && across_deg.trim() ? { kind: 'axes', source: 'typed', along_deg, across_deg, axis_azimuth_deg } : null
  }
  if (!settled.value?.values) return null
  const [along, across] = settled.value.values
  return {
    kind: 'axes', source: 'live', along_deg: along?.toFixed(3), across_deg: across?.toFixed(3), axis_azimuth_deg,
    noise_arcmin: Math.min(120, settled.value.noise_arcmin).toFixed(1),
  }
})
const input = computed(() => reading.value && {
  reading: reading.value, foot_azimuths_deg: sent.value, foot_radius_mm: radius.value.trim() || null, screw_pitch_mm: pitch.value.trim() || null,
})
const { advice, refusal, record, turned } = useAdvice<Schema<'LevelAdvice'>>('level', input, { waitMs: 250, recorded: settle })
/** What was asked is done: the next reading is read anew, and teaches. */
async function turn () {
  const was = { bubble: bubble.value, vials: vials.value, angles: angles.value }
  const taking = turned()
  bubble.value = vials.value = null
  angles.value = { along_deg: '', across_deg: '' }
  // what could not be kept stands there again, unless something newer was read meanwhile
  if (!await taking && !reading.value) [bubble.value, vials.value, angles.value] = [was.bubble, was.vials, was.angles]
}
function look (isLevel: boolean) {
  looks.value = isLevel
  if (isLevel) void record()
}

const LIVE_RIM_DEG = 1
const liveMost = computed(() => Number(kept.value.vial_divisions) > 0 ? Number(kept.value.vial_divisions) : 3)
/** The live bubble: it stands toward the rising side, at the rim for a degree and more. */
const liveBubble = computed(() => {
  const typed = reading.value?.kind === 'axes' && way.value === 'angles' ? [Number(angles.value.along_deg), Number(angles.value.across_deg)] : null
  const values = typed ?? shown.value?.latest ?? shown.value?.values
  if (!values || values.some(one => !Number.isFinite(one))) return null
  const [along = 0, across = 0] = values
  const axis = Number(kept.value.axis_azimuth_deg) || 0
  return { divisions: Math.min(liveMost.value, Math.hypot(along, across) / LIVE_RIM_DEG * liveMost.value), azimuth_deg: (azimuthOf(across, -along) + axis) % 360 }
})
const drawnBubble = computed(() => bubble.value && { divisions: Number(bubble.value.divisions) || 0, azimuth_deg: Number(bubble.value.azimuth_deg) || 0 })
const PROMPTS = {
  look: 'Step back and look: does it stand roughly level?', round: 'Point at the bubble where you see it.', straight: 'Drag each bubble to where you see it.', angles: 'Type both angles it shows.', axes: 'Waiting for the level to settle.',
}
function type (part: 'divisions' | 'azimuth_deg', text: string) {
  bubble.value = { ...bubble.value ?? { divisions: 0, azimuth_deg: 0 }, [part]: text }
}
function point (divisions: number, azimuth: number) {
  bubble.value = { divisions, azimuth_deg: azimuth }
}
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Level">
      <StepHead />
      <div v-if="way === 'look'" class="look">
        <svg viewBox="0 0 320 200" role="img" aria-label="A level base beside a leaning one"><path
          d="M20 170h120M80 60 36 170M80 60l44 110M40 60h80" class="good" /><g transform="rotate(9 250 170)"><path
          d="M190 170h120M250 60 206 170M250 60l44 110M210 60h80" class="bad" /></g></svg>
        <div class="answers">
          <v-btn size="x-large" color="primary" variant="flat" @click="look(true)">It looks level</v-btn>
          <v-btn size="x-large" @click="look(false)">It leans</v-btn>
        </div>
        <button type="button" class="link-button" @click="way = usual">Read a bubble instead</button>
      </div>
      <v-btn-toggle role="group"
        v-else v-model="way" mandatory divided variant="outlined" class="ways" aria-label="What you read">
        <v-btn v-for="(word, name) in WAYS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <template v-if="way === 'straight'">
        <StraightVial :divisions="vials?.first ?? 0" :most="5" toward="foot 1" away="away" label="Vial toward foot 1"
          @read="vials = { second: vials?.second ?? 0, first: $event }" />
        <StraightVial :divisions="vials?.second ?? 0" :most="5" toward="right" away="left"
          label="Vial across it, foot 1 ahead" @read="vials = { first: vials?.first ?? 0, second: $event }" />
      </template>
      <LiveLine v-if="way === 'axes' && isOn" :shown="shown" :is-lost="isLost" />
      <div v-if="way !== 'look'" class="drawing">
        <LevelDial
          :bubble="way === 'round' ? drawnBubble : isVial ? null : liveBubble" :vial-divisions="liveMost"
          :foot-azimuths="feet" :asked="advice?.is_done ? '' : advice?.asked ?? ''" :by-bearing="byBearing"
          :next-foot="advice?.is_done ? null : advice?.next_foot ?? null"
          :low-azimuth-deg="advice && advice.tilt.tilt_arcmin > 1 ? advice.tilt.low_azimuth_deg : null"
          :can-point="way === 'round'" @bubble="point"
        />
      </div>
      <template v-if="way !== 'look'">
        <p v-if="!byBearing" class="quiet small">Number the feet clockwise from above; foot 1 is on top here.</p>
        <div v-if="bench.mount.id" class="feet">
          <v-btn-toggle role="group" :model-value="count" mandatory divided variant="outlined" class="ways"
            aria-label="How many feet"
            @update:model-value="keepMount({ feet: $event })">
            <v-btn :value="3">3 feet</v-btn><v-btn :value="4">4 feet</v-btn>
          </v-btn-toggle>
          <v-btn-toggle role="group"
            :model-value="bench.mount.levelling" mandatory divided variant="outlined" class="ways"
            aria-label="What moves them" @update:model-value="keepMount({ levelling: $event })">
            <v-btn value="screws">foot screws</v-btn><v-btn value="clamps">legs</v-btn><v-btn value="none">something
              put under</v-btn>
          </v-btn-toggle>
        </div>
        <form v-if="way === 'angles'" class="fields" novalidate @submit.prevent>
          <NumberField :model-value="angles.along_deg" label="Rise along it" unit="°"
            :error-messages="refusal?.for('along_deg')"
            @update:model-value="angles = { ...angles, along_deg: String($event) }" />
          <NumberField :model-value="angles.across_deg" label="Rise 90° clockwise" unit="°"
            :error-messages="refusal?.for('across_deg')"
            @update:model-value="angles = { ...angles, across_deg: String($event) }" />
        </form>
        <NumbersToggle v-model="showsNumbers" />
        <form v-if="showsNumbers" class="fields" novalidate @submit.prevent>
          <NumberField v-if="way === 'round'" :model-value="bubble === null ? '' : String(bubble.divisions)"
            label="Bubble off by" unit="div" :error-messages="refusal?.for('bubble_divisions')"
            @update:model-value="type('divisions', String($event))" />
          <NumberField v-if="way === 'round'" :model-value="bubble === null ? '' : String(bubble.azimuth_deg)"
            label="toward" unit="°" :error-messages="refusal?.for('bubble_azimuth_deg')"
            @update:model-value="type('azimuth_deg', String($event))" />
          <NumberField v-if="isVial" v-model="sensitivity" label="One division is" unit="′" hint="Empty: a usual vial"
            :error-messages="refusal?.for('sensitivity_arcmin') ?? keepRefusal?.for('vial_sensitivity_arcmin')" />
          <NumberField v-if="!isVial" v-model="kept.axis_azimuth_deg" label="Its axis points to" unit="°"
            hint="0 is foot 1" :error-messages="refusal?.for('axis_azimuth_deg')" />
          <NumberField v-model="kept.first_foot_deg" label="Foot 1 points to" unit="°"
            hint="True bearing, if known" :error-messages="refusal?.for('foot_azimuths_deg') ?? refusal?.for('0')" />
          <NumberField v-model="radius" label="Foot circle" unit="mm" measure="hand"
            :hint="bench.mount.foot_radius_mm ? undefined : 'Empty: as usual'"
            :error-messages="refusal?.for('foot_radius_mm')" />
          <NumberField v-if="bench.mount.levelling === 'screws'" v-model="pitch" label="One turn is" unit="mm"
            hint="Empty: as usual" :error-messages="refusal?.for('screw_pitch_mm')" />
        </form>
        <button v-if="isVial && bench.mount.id && canKeep && showsNumbers" type="button" class="link-button keep"
          @click="keepSensitivity">Keep this vial with {{ bench.mount.name }}</button>
      </template>
      <StandIn v-if="way === 'axes'" kind="level" />
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal" :turn="way === 'look' ? undefined : 'Done: read it again'"
      :record="advice && way !== 'look' ? advice.is_done ? 'Record: level' : 'Record as it is' : undefined"
      :prompt="PROMPTS[way]" @record="record" @turn="turn">
      <p v-if="advice?.learned.rounds" class="quiet small">{{ advice.learned.rounds }} turns so far.</p>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.look { display: grid; gap: 16px; justify-items: start; }
.look svg { width: min(100%, 460px); }
.look path { fill: none; stroke-width: 5; stroke-linecap: round; stroke-linejoin: round; }
.good { stroke: var(--jade); } .bad { stroke: var(--ink-quiet); stroke-dasharray: 9 8; }
.feet { display: flex; gap: 10px; flex-wrap: wrap; flex: none; }
.answers { display: flex; gap: 12px; flex-wrap: wrap; }
@media (max-width: 699px) { .look svg { order: 3; } }
</style>
