<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { itemsAt, type Schema } from '@/api/client'
import NumberField from '@/shell/NumberField.vue'
import { useDraft } from '@/shell/drafts'
import { useAsked, useAttempt } from '@/shell/useAsked'
import { stepDraft, useStepValues } from '../drafts'
import { useNotices } from '@/shell/notices'
import AdvicePanel from '../AdvicePanel.vue'
import NeedLandmark from '../NeedLandmark.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import { useUnits } from '@/stores/units'
import { useBench, type Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
type Parfocal = Schema<'Parfocal'>
const notes = itemsAt<Parfocal>('/setup/parfocals')
const notices = useNotices()
interface Said { eyepieceId: number | null, on: 'landmark' | 'star' | null }
const { part, settle } = useStepValues<Said, Schema<'FocusInput'>>(
  props, 'focus', () => ({ eyepieceId: null, on: null }), ({ eyepiece_id, on }) => ({ eyepieceId: eyepiece_id, on: on ?? null }),
)
const [ownId, ownOn] = [part('eyepieceId'), part('on')]
/** The longest one until another is chosen; by day a landmark. */
const eyepieceId = computed({ get: () => props.bench.eyepieces.some(one => one.id === ownId.value) ? ownId.value : props.bench.longest_eyepiece_id, set: id => { ownId.value = id } })
const on = computed({ get: () => ownOn.value ?? (props.bench.ring.is_up ? 'landmark' : 'star'), set: what => { ownOn.value = what } })
const store = useBench()
/** By day a landmark is aimed at only after the Sun guard called it safe, and while it is. */
const input = computed(() => eyepieceId.value === null || (on.value === 'landmark' && !store.landmark) ? null : {
  eyepiece_id: eyepieceId.value, on: on.value, landmark: on.value === 'landmark' ? store.landmark : null,
})
const units = useUnits()
const { advice, refusal, record } = useAdvice<Schema<'FocusAdvice'>>('focus', input, { recorded: settle })
const { answer: kept, load } = useAsked(() => notes.list(), ['setup'])
const { values: fresh, forget } = useDraft(() => stepDraft(props.bench, 'parfocal'), () => ({ to: null, shift: '' }))
const { refusal: noteRefusal, once } = useAttempt()
const name = (id: number) => props.bench.eyepieces.find(one => one.id === id)?.name ?? 'a glass no longer here'
const mine = computed(() => (kept.value ?? []).filter(one => one.telescope_id === props.bench.telescope.id))
async function add () {
  const note = {
    telescope_id: props.bench.telescope.id ?? 0, from_eyepiece_id: eyepieceId.value ?? 0,
    to_eyepiece_id: fresh.value.to as number | undefined, shift_mm: String(fresh.value.shift).trim() as unknown as number,
  }
  if (await once(() => notes.add(note))) forget()
}
async function remove (one: Parfocal) {
  const id = one.id ?? 0
  await once(() => notes.remove(one), one.id)
  if (!noteRefusal.value) notices.say('One note less.', () => notes.restore(id))
}
onMounted(load)
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Focus">
      <StepHead />
      <div class="fields">
        <v-select v-model="eyepieceId" label="Eyepiece" :items="bench.eyepieces" item-title="name" item-value="id" />
        <v-select v-model="on" label="Focused on"
          :items="[{ title: 'a landmark', value: 'landmark' }, { title: 'a star', value: 'star' }]" />
      </div>
      <NeedLandmark v-if="on === 'landmark' && !store.landmark" />
      <p v-else-if="on === 'landmark' && store.landmark" class="quiet">On the landmark of the Sun
        guard<template v-if="store.landmark.distance_m">, {{ units.ground(store.landmark.distance_m) }}
        away</template>.</p>
      <svg viewBox="0 0 600 130" class="stars" role="img"
        aria-label="Too far in: large and soft. Right: smallest. Too far out: large and soft.">
        <g v-for="(r, n) in [30, 14, 4, 14, 30]" :key="n" :transform="`translate(${60 + n * 120} 60)`"><circle :r="r"
          :class="['star', { best: n === 2 }]" :style="{ opacity: Math.max(0.25, 1 - r / 36) }" /></g>
        <path d="M60 112H540m-12 -7l12 7l-12 7M72 105l-12 7l12 7" class="axis" />
        <text x="60" y="102" text-anchor="middle" class="word">in</text><text x="300" y="102" text-anchor="middle"
          class="word strong">smallest</text><text x="540" y="102" text-anchor="middle" class="word">out</text>
      </svg>
      <section class="part">
        <h2>From person to person</h2>
        <p v-for="one in advice?.people ?? []" :key="one.name"><b>{{ one.name }}</b>: {{ one.words }}.</p>
        <p v-if="!advice?.people.length" class="quiet">Nobody's diopters are known; everybody focuses anew.</p>
      </section>
      <details class="part">
        <summary>From glass to glass, if you measure it</summary>
        <p v-for="one in mine" :key="one.id ?? 0" class="note"><span>{{ name(one.from_eyepiece_id) }} →
          {{ name(one.to_eyepiece_id) }}: <b class="figures">{{ Math.abs(one.shift_mm).toFixed(1) }} mm
          {{ one.shift_mm < 0 ? 'in' : 'out' }}</b></span><v-btn variant="text" size="small"
          @click="remove(one)">Delete</v-btn></p>
        <form class="fields" novalidate @submit.prevent="add">
          <v-select :model-value="fresh.to" @update:model-value="fresh = { ...fresh, to: $event }" label="Changed to"
            :items="bench.eyepieces.filter(one => one.id !== eyepieceId)" item-title="name" item-value="id"
            :error-messages="noteRefusal?.for('to_eyepiece_id')" />
          <NumberField :model-value="fresh.shift as string" @update:model-value="fresh = { ...fresh, shift: $event }"
            label="Focus moved" unit="mm" measure="hand" hint="Inwards is negative."
            :error-messages="noteRefusal?.for('shift_mm')" />
          <v-btn type="submit" size="large">Keep this note</v-btn>
        </form>
      </details>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal" record="In focus" @record="record" />
  </div>
</template>

<style scoped>
.stars { width: 100%; max-width: 620px; height: 130px; flex: none; }
.star { fill: var(--ink); } .best { fill: var(--jade); opacity: 1 !important; }
.axis { stroke: var(--ink-quiet); stroke-width: 2; fill: none; } .word { font-size: 15px; } .strong { font-weight: 700; }
.part { display: grid; gap: 8px; border-top: 1px solid var(--line); padding-top: 10px; flex: none; }
summary { min-height: 48px; display: flex; align-items: center; cursor: pointer; font-weight: 700; }
.note { display: flex; justify-content: space-between; align-items: center; }
</style>
