<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { eyepieces } from '@/api/items'
import { call, type Schema } from '@/api/client'
import LadderDrawing from '@/drawings/ladder/LadderDrawing.vue'
import { useAsked } from '@/shell/useAsked'
import type { Ladder } from '@/stores/rungs'

const props = defineProps<{ telescopeId: number, ladder: Ladder }>()
const most = ref(3)
const picked = ref<number[]>([])
const { answer: owned, load: loadOwned } = useAsked(() => eyepieces.list(), ['kit'])
const { answer: advice, refusal, load } = useAsked(() => {
  const query = new URLSearchParams({ telescope_id: String(props.telescopeId), most_eyepieces: String(most.value) })
  for (const id of picked.value) query.append('picked_id', String(id))
  return call<Schema<'CaseAdvice'> | null>(`/powers/case?${query}`)
}, ['kit', 'evening'])
const names = (ids: readonly number[]) => (owned.value ?? []).filter(one => ids.includes(one.id ?? 0)).map(one => `${one.focal_length_mm} mm`).join(', ')
/** The rungs one would have with the picked set, or with the best one. */
const shown = computed(() => {
  const chosen = advice.value?.picked ?? advice.value?.best
  const most = (chosen?.high_magnification ?? 0) + 0.001
  const isIn = (rung: Ladder['rungs'][number]) => chosen?.eyepiece_ids.includes(rung.eyepiece_id ?? 0) && rung.magnification <= most
  return { ...props.ladder, rungs: props.ladder.rungs.filter(isIn), twins: [], gaps: [], claims: [] }
})
function toggle (id: number) {
  picked.value = picked.value.includes(id) ? picked.value.filter(one => one !== id) : [...picked.value, id]
}
onMounted(() => Promise.all([loadOwned(), load()]))
watch([most, picked, () => props.telescopeId], load)
</script>

<template>
  <section class="case" aria-label="The case for tonight">
    <div class="ask">
      <h2 id="most-words">How many eyepieces will you carry?</h2>
      <v-btn-toggle role="group" v-model="most" mandatory divided variant="outlined" aria-labelledby="most-words">
        <v-btn v-for="n in 6" :key="n" :value="n">{{ n }}</v-btn>
      </v-btn-toggle>
      <p v-if="refusal" role="alert">{{ refusal.words }}</p>
      <article v-if="advice" class="best">
        <h2>Take
          {{ [names(advice.best.eyepiece_ids), ...advice.best.amplifier_names].join(' and ') }}</h2>
        <p>{{ advice.best.words }}</p>
        <p v-if="advice.learned_words">{{ advice.learned_words }}</p>
        <p v-if="advice.without_amplifiers"><b>Without
          amplifiers:</b>{{ ' ' }}{{ names(advice.without_amplifiers.eyepiece_ids) }};
          {{ advice.without_amplifiers.words }}</p>
        <p class="quiet small">Every set was compared: the mean distance from any power between the lowest and the
          highest useful rung to the nearest one you would have.</p>
      </article>
    </div>
    <div class="own">
      <h2>Or pick your own</h2>
      <div class="wells">
        <button v-for="one in owned" :key="one.id ?? 0" type="button" class="well"
          :aria-pressed="picked.includes(one.id ?? 0)" @click="toggle(one.id ?? 0)">
          <span class="figures">{{ one.focal_length_mm }}</span> mm
        </button>
      </div>
      <article v-if="advice?.picked_words">
        <p v-if="advice.picked">{{ advice.picked.words }}</p>
        <p><b>{{ advice.picked_words }}</b></p>
      </article>
      <p v-else class="quiet">Pick some to see how they score.</p>
    </div>
    <LadderDrawing v-if="shown.rungs.length" :ladder="shown" :selected-key="undefined" class="drawn" />
  </section>
</template>

<style scoped>
.case { display: grid; grid-template-columns: 1fr 1fr 1fr; gap: 28px; padding: 16px 20px; height: 100%; overflow-y: auto; }
.ask, .own { display: grid; gap: 16px; align-content: start; }
.best { border-left: 6px solid var(--jade); background: var(--jade-wash); border-radius: 8px; padding: 16px; display: grid; gap: 8px; }
.best h2 { font-size: 20px; }
.ask :deep(.v-btn) { min-width: 48px; padding: 0 12px; }
.drawn { height: 100%; min-height: 420px; }
.wells { display: flex; flex-wrap: wrap; gap: 10px; }
.well { font: inherit; color: inherit; width: 84px; height: 84px; border-radius: 50%; border: 3px solid var(--ink); background: var(--ground); cursor: pointer; }
.well[aria-pressed='true'] { background: var(--jade); color: var(--on-jade); border-color: var(--jade); }
@media (max-width: 699px) { .case { grid-template-columns: 1fr; padding: 14px; } }
</style>
