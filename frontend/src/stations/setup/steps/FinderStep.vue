<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'
import FinderView from '@/drawings/dials/FinderView.vue'
import ScrewRing from '@/drawings/dials/ScrewRing.vue'
import { finders, type Finder } from '@/api/items'
import ChangedMeanwhile from '@/shell/ChangedMeanwhile.vue'
import DraftLine from '@/shell/DraftLine.vue'
import FieldForm from '@/shell/FieldForm.vue'
import type { Field } from '@/shell/fields'
import { useItemForm } from '@/shell/useItemForm'
import { RING_ENDS } from '@/stations/kit/kitFields'
import { useUnits } from '@/stores/units'
import AdvicePanel from '../AdvicePanel.vue'
import NeedLandmark from '../NeedLandmark.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import { useStepValues } from '../drafts'
import { useBench, type Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
const store = useBench()
type Input = Schema<'FinderInput'>
interface Said {
  finderId: number | null
  on: 'landmark' | 'star' | 'moon'
  /** Chosen by the distance, unless the landmark is near and somebody wants the other way. */
  method: 'crossing' | 'parallel' | null
  /** Where the target was seen; nothing is assumed before it was pointed at. */
  seen: { right: number, up: number } | null
  onMark: boolean
  trouble: Input['trouble']
  mainTube: 'still_there' | 'moved' | null
}
const { values: said, part, settle } = useStepValues<Said, Input>(props, 'finder', () => ({
  finderId: props.bench.finders[0]?.id ?? null, on: 'landmark', method: null, seen: null, onMark: false, trouble: null, mainTube: null,
}), one => ({
  finderId: one.finder_id, on: one.on ?? 'landmark', method: one.method ?? null, onMark: !!one.on_mark, trouble: one.trouble ?? null,
  seen: one.seen_right == null || one.seen_up == null ? null : { right: one.seen_right, up: one.seen_up }, mainTube: one.main_tube ?? null,
}))
const NOTHING = { seen: null, onMark: false, trouble: null, mainTube: null } as const
/** Another finder, target or way: what was seen is seen anew. */
const chosen = <Key extends 'finderId' | 'on' | 'method'>(key: Key) => computed({
  get: () => said.value[key], set: (value: Said[Key]) => { said.value = { ...said.value, ...NOTHING, [key]: value } },
})
const [ownFinderId, on, method] = [chosen('finderId'), chosen('on'), chosen('method')]
/** One that is still there; else the first. */
const finderId = computed({
  get: () => (props.bench.finders.find(one => one.id === ownFinderId.value) ?? props.bench.finders[0])?.id ?? null,
  set: id => { ownFinderId.value = id },
})
const [seen, onMark, trouble, mainTube] = [part('seen'), part('onMark'), part('trouble'), part('mainTube')]
const showsScrews = ref(false)
const landmark = computed(() => store.landmark)
const finder = computed(() => props.bench.finders.find(one => one.id === finderId.value))
const isSaid = computed(() => !!seen.value || onMark.value || !!trouble.value)
const input = computed(() => finderId.value === null || !isSaid.value || (on.value === 'landmark' && !landmark.value) ? null : {
  finder_id: finderId.value, on: on.value, landmark: landmark.value, method: method.value, on_mark: onMark.value,
  seen_right: seen.value?.right ?? null, seen_up: seen.value?.up ?? null, trouble: trouble.value, main_tube: mainTube.value,
})
const { advice, refusal, record, turned } = useAdvice<Schema<'FinderAdvice'>>('finder', input, { recorded: settle })
function say (now: { seen?: { right: number, up: number }, onMark?: boolean, trouble?: Schema<'FinderInput'>['trouble'] }) {
  said.value = { ...said.value, ...NOTHING, ...now }
}
/** What was asked is done: the next reading is read anew, and teaches. */
async function turn () {
  const was = { seen: seen.value ?? undefined, onMark: onMark.value, trouble: trouble.value }
  const taking = turned()
  say({})
  // what could not be kept stands there again, unless something newer was said meanwhile
  if (!await taking && !isSaid.value) say(was)
}
async function lookBack (found: 'still_there' | 'moved') {
  mainTube.value = found
  if (found === 'still_there') await record()
}
const TROUBLES = [
  { value: 'lost', words: 'I do not see it in the finder' },
  { value: 'at_end', words: 'A screw will not turn further' },
  { value: 'too_dim', words: 'The mark is too dim' },
  { value: 'left', words: 'The landmark has gone' },
] as const
const asksMain = computed(() => !!advice.value?.agrees && mainTube.value === null)
/** How its screws sit is a fact of the finder, and kept with it. */
const SCREW_FIELDS: readonly Field[] = [
  { key: 'ring_end', label: 'The screws hold its', options: RING_ENDS },
  { key: 'first_screw_hour', label: 'One screw is at', unit: "o'clock" },
  { key: 'lever_mm', label: 'From there to the other ring', unit: 'mm', measure: 'hand' },
  { key: 'thread_pitch_mm', label: 'One turn moves', unit: 'mm' },
]
const screws = useItemForm<Finder>({
  of: () => finder.value ? 'screws' : null,
  fields: SCREW_FIELDS,
  item: () => finder.value ?? null,
  fresh: () => ({}),
  store: (id, item) => finders.change(id ?? 0, { ...finder.value, ...item }),
})
const { values: screwValues, isDraft: screwsAreDraft, refusal: screwRefusal, differences, isSaving } = screws
const star = computed(() => {
  const told = advice.value
  return told?.agrees && told.star_off_arcmin > told.limit_arcmin ? { right: told.star_right, up: told.star_up } : null
})
const prompt = computed(() => props.bench.finders.length && (landmark.value || on.value !== 'landmark')
  ? 'Point at where the target stands in the finder.' : undefined)
const turnWords = computed(() => {
  if (advice.value?.agrees) return undefined
  return trouble.value && trouble.value !== 'lost' ? undefined : 'Turned: look again'
})
const recordWords = computed(() => {
  if (!advice.value?.agrees || mainTube.value !== 'still_there') return undefined
  return advice.value.is_done ? 'Finder agrees' : 'Record as it is'
})
const units = useUnits()
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Finder">
      <StepHead />
      <p v-if="!bench.finders.length">No finder sits on {{ bench.telescope.name }}. <router-link to="/kit">Add one in
        the kit</router-link>, or sight along the tube.</p>
      <template v-else>
        <div class="picks">
          <v-btn-toggle role="group"
            v-model="finderId" mandatory divided variant="outlined" class="ways" aria-label="Finder">
            <v-btn v-for="one in bench.finders" :key="one.id ?? 0" :value="one.id">{{ one.name }}</v-btn>
          </v-btn-toggle>
          <v-btn-toggle role="group"
            v-model="on" mandatory divided variant="outlined" class="ways" aria-label="Aligned on">
            <v-btn value="landmark">Landmark</v-btn><v-btn value="star">Star</v-btn><v-btn value="moon">Moon</v-btn>
          </v-btn-toggle>
          <v-btn-toggle role="group"
            v-if="on === 'landmark' && advice && !advice.is_far_enough" :model-value="advice.method"
            mandatory divided variant="outlined" class="ways" aria-label="Way" @update:model-value="method = $event">
            <v-btn value="crossing">Crossing</v-btn><v-btn value="parallel">Parallel</v-btn>
          </v-btn-toggle>
        </div>
        <NeedLandmark v-if="on === 'landmark' && !landmark" />
        <template v-else>
          <p class="first">First: longest eyepiece in, focused, {{ on }} in the middle, clamps closed.</p>
          <div class="two">
            <FinderView
              v-if="finder" :kind="finder.kind ?? 'straight'" :seen="seen" :on="on"
              :wanted="advice?.method === 'parallel' ? { right: advice.wanted_right, up: advice.wanted_up } : null"
              :star="star"
              class="view" @seen="(right, up) => say({ seen: { right, up } })"
            />
            <!-- its place is kept from the start: what is pointed at keeps its box -->
            <figure class="screws"><template v-if="advice && !advice.agrees && advice.screws.length"><ScrewRing
              :screws="advice.screws" /><figcaption class="small quiet">The ring seen from
              behind</figcaption></template></figure>
          </div>
          <div class="answers">
            <v-btn size="large" :variant="isSaid ? 'outlined' : 'flat'" :color="isSaid ? undefined : 'primary'"
              @click="say({ onMark: true })">It sits on the mark</v-btn>
            <v-menu location="top start" role="region" aria-label="What is wrong">
              <template #activator="{ props: bound }"><v-btn v-bind="bound" size="large" variant="text">Something is
                wrong …</v-btn></template>
              <v-list role="menu"><v-list-item v-for="one in TROUBLES" role="menuitem"
                :key="one.value" :title="one.words"
                @click="say({ trouble: one.value })" /></v-list>
            </v-menu>
          </div>
          <button type="button" class="link-button" :aria-expanded="showsScrews"
            @click="showsScrews = !showsScrews">
            {{ showsScrews ? 'Hide how its screws sit' : 'How its screws sit' }}
          </button>
          <form v-if="showsScrews" class="fields" novalidate @submit.prevent="screws.save()">
            <FieldForm v-model="screwValues" :fields="SCREW_FIELDS" :refusal="screwRefusal" />
            <v-btn type="submit" size="large" :loading="isSaving">Keep this with the finder</v-btn>
          </form>
          <DraftLine v-if="showsScrews" :is-draft="screwsAreDraft" @start-over="screws.startOver()" />
          <ChangedMeanwhile :differences="differences" @mine="screws.keepMine()" @theirs="screws.takeTheirs()" />
        </template>
      </template>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal" :record="recordWords" :turn="turnWords" :prompt="prompt"
      @record="record" @turn="turn">
      <template #buttons>
        <template v-if="asksMain && !refusal">
          <v-btn size="large" color="primary" variant="flat" @click="lookBack('still_there')">Still there</v-btn>
          <v-btn size="large" @click="lookBack('moved')">It moved</v-btn>
        </template>
        <v-btn v-if="trouble === 'left'" size="large" @click="store.goTo('sun')">Choose another landmark</v-btn>
      </template>
      <template v-if="advice && !refusal && advice.agrees">
        <p>{{ advice.star_words }}</p>
        <p v-if="on === 'landmark' && !advice.is_far_enough" class="warn">Parallax
          {{ advice.parallax_arcmin.toFixed(0) }}′: from {{ units.ground(advice.needed_distance_m) }} on either way is
          good.</p>
      </template>
      <p v-else-if="advice?.learned.rounds && !refusal" class="quiet small">{{ advice.learned.rounds }} turns so
        far.</p>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.picks { display: flex; flex-wrap: wrap; gap: 8px; flex: none; }
.two { flex: 1 1 260px; min-height: 240px; display: flex; gap: 16px; align-items: stretch; }
.view { flex: 1.5; min-width: 0; max-height: 430px; }
.screws { flex: 1; margin: 0; min-width: 0; max-width: 260px; align-self: center; text-align: center; }
.first { border-left: 5px solid var(--jade); padding-left: 12px; font-weight: 600; }
.answers { display: flex; gap: 10px; flex-wrap: wrap; flex: none; }
.warn { border-left: 5px solid var(--brass); padding-left: 10px; }
@media (max-width: 699px) { .two { flex: none; flex-direction: column; } .view { height: 72vw; flex: none; } .screws { max-width: none; height: 200px; } .screws :deep(svg) { height: 170px; } }
</style>
