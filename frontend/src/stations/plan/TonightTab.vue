<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import SkyStrip from '@/drawings/SkyStrip.vue'
import SunNotice from '@/shell/SunNotice.vue'
import { useAsked } from '@/shell/useAsked'
import { clockTime } from '@/shell/time'
import { useEvening } from '@/stores/evening'
import { usePlan } from '@/stores/plan'
import { useWeather } from '@/stores/weather'
import { useTonight, type ListName, type Prospect } from '@/stores/tonight'
import NightLine from './NightLine.vue'
import OutlookLine from './OutlookLine.vue'
import PaperMenu from './PaperMenu.vue'
import PlanColumn from './PlanColumn.vue'
import TargetCloser from './TargetCloser.vue'
import TargetLine from './TargetLine.vue'

const props = defineProps<{ find: boolean, findAgain: string }>()
const evening = useEvening()
const store = useTonight()
const plan = usePlan()
const weather = useWeather()
onMounted(weather.load)
const answer = computed(() => store.answer!)
const site = computed(() => evening.evening?.site ?? null)
const text = ref('')
const field = ref<{ focus: () => void } | null>(null)
const kind = shallowRef<Prospect['target']['kind'] | null>(null)
const word = shallowRef<Prospect['word'] | null>(null)
const onlyNew = ref(false)
const LISTS: { value: ListName, title: string }[] = [
  { value: 'usual', title: 'All' }, { value: 'first', title: 'First night' }, { value: 'city', title: 'Bright sky' },
]
const WORD_ORDER: readonly Prospect['word'][] = ['easy', 'clear', 'with care', 'at the limit', 'not from here']
const GROUPS = [
  { when: 'now', title: 'Now' }, { when: 'later', title: 'Later' }, { when: 'not tonight', title: 'Not tonight, and why' },
] as const
const kinds = computed(() => [...new Set(answer.value.prospects.map(one => one.target.kind))].sort())
/** How easily they show, easiest first, as far as any does. */
const wordsShown = computed(() => WORD_ORDER.filter(one => answer.value.prospects.some(prospect => prospect.word === one)))
const isShown = (one: Prospect) => (!kind.value || one.target.kind === kind.value) && (!word.value || one.word === word.value) && (!onlyNew.value || !one.is_noted)
const groups = computed(() => GROUPS.map(group => ({
  ...group, prospects: answer.value.prospects.filter(one => one.when === group.when && isShown(one)),
})).filter(group => group.prospects.length))

const { answer: found, load: search } = useAsked(async () => text.value.trim()
  ? call<Schema<'Target'>[]>(`/targets?${new URLSearchParams({ text: text.value, most: '12' })}`)
  : null)
/** Enter was pressed on what stands typed now: the best of it is taken as soon as it is known. */
let isWished = false
watch(text, () => {
  isWished = false
  found.value = null
  void search()
})
watch(found, takeWished)
function takeFirst () {
  isWished = true
  takeWished()
}
function takeWished () {
  const first = found.value?.[0]
  if (isWished && first) choose(first.key)
}
async function focusFind () {
  if (!props.find) return
  await nextTick()
  field.value?.focus()
}
onMounted(focusFind)
watch(() => props.findAgain, focusFind)
function choose (key: string | null) {
  store.chosenKey = key
  text.value = ''
}
/** One that shows and was never noted, another at each press. */
function surprise () {
  const open = answer.value.prospects.filter(one => one.when !== 'not tonight' && !one.is_noted && one.target.key !== store.chosenKey)
  const one = open[Math.floor(Math.random() * open.length)]
  if (one) choose(one.target.key)
}
</script>

<template>
  <div class="tonight">
    <Teleport to="#plan-head" defer>
      <p class="quiet small holds">
        Directions hold for {{ clockTime(answer.tonight.at_utc, evening.zone) }}{{ answer.tonight.at_is_now ?
          ', now' : '' }}.
        <button v-if="store.atUtc" type="button" class="link-button back" @click="store.atUtc = null">Back to
          now</button>
      </p>
      <PaperMenu :zone="evening.zone" />
      <v-btn variant="text" class="surprise" @click="surprise">Surprise me</v-btn>
      <v-text-field ref="field" v-model="text" label="Find a target" density="compact" class="find" clearable
        @click:clear="text = ''" @keydown.enter="takeFirst" />
    </Teleport>
    <SunNotice v-if="answer.tonight.sun_now.is_up" role="alert" :altitude-deg="answer.tonight.sun_now.altitude_deg"
      :azimuth-deg="answer.tonight.sun_now.azimuth_deg"
      :until-utc="answer.tonight.sun_now.up_until_utc" :caution="answer.tonight.sun_now.words" :zone="evening.zone" />
    <SkyStrip :prospects="answer.prospects" :chosen-key="store.chosenKey" :skyline="site?.skyline ?? []"
      :domes="site?.light_domes ?? []" :sun="answer.tonight.sun" :zone="evening.zone" @choose="choose" />
    <div class="below">
      <TargetCloser v-if="store.chosenKey && !text.trim()" :zone="evening.zone" class="list scroll-y"
        @close="choose(null)" />
      <div v-else class="list scroll-y">
        <template v-if="text.trim()">
          <h2 class="quiet small">In the catalogue</h2>
          <button v-for="one in found ?? []" :key="one.key" type="button" class="hit plain-button"
            @click="choose(one.key)">
            <b>{{ one.label }}</b><span class="quiet">{{ one.detail }}{{ one.constellation ?
              `, ${one.constellation}` : '' }}</span>
          </button>
          <p v-if="found && !found.length" class="quiet">Nothing of that name.</p>
        </template>
        <template v-else>
          <!-- its place is kept while the weather is asked for: nothing moves when it comes -->
          <div v-if="weather.outlook || !weather.isAsked" class="outlook"><OutlookLine v-if="weather.outlook"
            :outlook="weather.outlook">
            <router-link :to="{ path: '/plan', query: { tab: 'weather' } }">Why</router-link></OutlookLine></div>
          <NightLine :night="answer.tonight.night" :zone="evening.zone" />
          <div class="filters">
            <v-btn-toggle role="group"
              :model-value="answer.listed" mandatory divided variant="outlined" density="compact"
              aria-label="Which list" @update:model-value="evening.choose({ listed: $event })">
              <v-btn v-for="one in LISTS" :key="one.value" :value="one.value">{{ one.title }}</v-btn>
            </v-btn-toggle>
            <v-select v-model="kind" :items="kinds" label="Kind" density="compact" clearable class="kind"
              hide-details />
            <v-select v-model="word" :items="wordsShown" label="How easily" density="compact" clearable class="kind"
              hide-details />
            <v-switch v-model="onlyNew" label="Not noted yet" class="new" color="primary" density="compact"
              hide-details />
          </div>
          <p v-if="answer.assumed" class="small">{{ answer.assumed }}
            <router-link :to="{ path: '/plan', query: { tab: 'place' } }">Say it</router-link></p>
          <p v-if="answer.words" class="words">{{ answer.words }}</p>
          <section v-for="group in groups" :key="group.when" class="group" :aria-label="group.title">
            <h2>{{ group.title }}</h2>
            <TargetLine v-for="one in group.prospects" :key="one.target.key" :prospect="one" :zone="evening.zone"
              :is-planned="plan.has(one.target.key)"
                @choose="choose(one.target.key)" />
          </section>
          <p v-if="!groups.length" class="quiet">Nothing of that kind on this list.</p>
        </template>
      </div>
      <PlanColumn :zone="evening.zone" class="column scroll-y" />
    </div>
  </div>
</template>

<style scoped>
.tonight { display: flex; flex-direction: column; gap: 8px; min-height: 0; }
.holds { flex: 1; }
.back { padding: 0 8px; }
.surprise { padding: 0 10px; }
.find { max-width: 240px; min-width: 160px; }
.below { flex: 1 1 0; min-height: 0; display: grid; gap: 20px; grid-template-columns: minmax(0, 1fr) 400px; grid-template-rows: minmax(0, 1fr); }
.list { min-height: 0; padding-bottom: 16px; }
.filters { display: flex; gap: 8px 12px; align-items: center; flex-wrap: wrap; padding: 4px 0; }
.kind { max-width: 190px; min-width: 130px; }
.filters :deep(.v-btn) { padding: 0 12px; }
.group h2 { color: var(--ink-quiet); font-size: 14px; padding: 8px 0 2px; }
.hit { display: flex; gap: 12px; width: 100%; min-height: 48px; align-items: center; border-top: 1px solid var(--line); padding: 4px 8px; }
.words { padding: 12px 0; font-weight: 600; }
.outlook { min-height: 2lh; }
@media (max-width: 699px) { .outlook { min-height: 4lh; } .holds { flex: 1 0 100%; } .find { flex: 1; min-width: 120px; } }
@media (max-width: 1023px) {
  .tonight { overflow-y: auto; }
  .below { flex: none; display: flex; flex-direction: column; }
}
</style>
