<script setup lang="ts">
import { mdiCheck } from '@mdi/js'
import { computed, onMounted, shallowRef, watch } from 'vue'
import SaveMenu from '@/drawings/SaveMenu.vue'
import ViewDisc from '@/drawings/ViewDisc.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import { useTopics } from '@/stores/events'
import { useRungs } from '@/stores/rungs'
import { useTarget, type Target } from '@/stores/target'
import { clockTime, minutesSeconds } from '@/shell/time'
import { useEvening } from '@/stores/evening'
import { useAsked, useAttempt } from '@/shell/useAsked'

const rungs = useRungs()
const view = useTarget()
const evening = useEvening()
const SIDES = { eyepiece: 'Eyepiece', correct: 'Correct', mirrored: 'Mirrored', turned: 'Turned' } as const
const host = shallowRef<HTMLElement | null>(null)
const { refusal: choiceRefusal, attempt } = useAttempt()
const typed = shallowRef('')
/** What matches the typed text; the one that is chosen always stands among it, so that its label is known. */
const found = useAsked(() => view.search(typed.value))
const items = computed<Target[]>(() => {
  const chosen = view.disc?.target
  const matching = found.answer.value ?? []
  return !chosen || matching.some(one => one.key === chosen.key) ? matching : [chosen, ...matching]
})
function look (text: string) {
  const isChosen = text === view.disc?.target.label
  typed.value = isChosen ? '' : text
  void found.load()
}
async function choose (key: string | null) {
  if (key && key !== view.key) await attempt(() => view.choose(key))
}
onMounted(() => view.load())
watch([
  () => rungs.selectedKey, () => rungs.ladder?.telescope_id, () => view.key, () => view.mode, () => view.besideKey,
  () => view.atUtc,
], () => view.load())
useTopics(['evening', 'kit', 'clock'], () => void view.load())
const leaves = computed(() => {
  const seconds = view.disc?.time_to_leave_s ?? null
  return seconds === null ? 'So near the pole it never leaves the field.' : `Centre to edge in ${minutesSeconds(seconds)} min, drifting west.`
})
const HOUR_MS = 3_600_000
/** Look an hour earlier or later in the chosen evening. */
function shift (hours: number) {
  const at = Date.parse(view.disc?.at_utc ?? '')
  if (Number.isFinite(at)) view.atUtc = new Date(at + hours * HOUR_MS).toISOString()
}
const label = (key: string | null | undefined) => rungs.ladder?.rungs.find(rung => rung.key === key)?.label ?? ''
</script>

<template>
  <header class="head">
    <v-autocomplete
      :model-value="view.disc?.target.key ?? null" :items="items" item-title="label" item-value="key"
      label="In the view" variant="outlined"
      density="compact" hide-details auto-select-first no-filter class="find" @update:search="look"
      @update:model-value="choose"
    />
    <v-btn variant="text" class="beside" @click="view.besideKey = view.besideKey ? null : rungs.selectedKey ?? null">
      {{ view.besideKey ? 'One disc' : 'Set beside' }}
    </v-btn>
    <SaveMenu :host="host" name="view" />
  </header>
  <RefusalLine :refusal="choiceRefusal ?? view.refusal" />
  <div ref="host" class="discs">
    <figure v-if="view.disc">
      <ViewDisc :disc="view.disc" class="one" />
      <figcaption v-if="view.beside" class="small">{{ label(view.disc.rung_key) }}</figcaption>
    </figure>
    <figure v-if="view.beside">
      <ViewDisc :disc="view.beside" class="one" />
      <figcaption class="small">{{ label(view.beside.rung_key) }}</figcaption>
    </figure>
    <span v-if="view.disc" class="when">
      <v-btn size="small" variant="text" aria-label="−1 h: the view an hour earlier" @click="shift(-1)">−1 h</v-btn>
      <button type="button" class="link-button now" :disabled="!view.atUtc"
        :aria-description="view.atUtc ? 'Back to the usual moment' : 'The moment of the view'"
        @click="view.atUtc = null">{{ clockTime(view.disc.at_utc, evening.zone)
        }}{{ view.disc.at_is_now ? ' now' : '' }}</button>
      <v-btn size="small" variant="text" aria-label="+1 h: the view an hour later" @click="shift(1)">+1 h</v-btn>
    </span>
  </div>
  <div v-if="view.disc" class="words">
    <p class="small">{{ view.disc.words }} <span class="quiet">{{ leaves }} {{ view.disc.mode_words }}</span></p>
    <div class="modes">
      <v-btn-toggle role="group" v-model="view.mode" mandatory divided variant="outlined" aria-label="Which way up">
        <v-btn v-for="(word, mode) in SIDES" :key="mode" :value="mode" size="small">
          {{ word }}<template v-if="mode === view.disc.chart"><v-icon :icon="mdiCheck" size="16" /><span
            class="sr-only">, use this side</span></template>
        </v-btn>
      </v-btn-toggle>
    </div>
  </div>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 6px; flex: none; }
.find { flex: 1; }
.beside { padding: 0 8px; }
.discs { position: relative; flex: 1 1 180px; min-height: 200px; display: flex; gap: 8px; justify-content: center; }
figure { flex: 1; min-width: 0; margin: 0; display: flex; flex-direction: column; align-items: center; }
.one { flex: 1; min-height: 0; }
.words { display: grid; gap: 4px; grid-template-columns: minmax(0, 1fr); }
.modes :deep(.v-btn) { padding: 0 9px; }
.modes :deep(.v-btn-group) { max-width: 100%; overflow-x: auto; }
.when { position: absolute; right: 0; bottom: 0; display: grid; justify-items: end; }
.when .v-btn { min-width: var(--least); padding: 0 6px; }
.now { padding: 0 2px; min-height: max(32px, var(--least)); white-space: nowrap; }
.modes { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
@media (max-width: 699px) { .discs { height: 370px; padding-bottom: 48px; flex: none; } }
</style>
