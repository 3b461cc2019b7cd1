<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import FieldDisc from '@/drawings/FieldDisc.vue'
import LadderDrawing from '@/drawings/ladder/LadderDrawing.vue'
import BigFigure from '@/shell/BigFigure.vue'
import { useDriftTimer } from '@/shell/driftTimer'
import { useEvening } from '@/shell/evening'
import { useNotices } from '@/shell/notices'
import { useRungs } from '@/shell/rungs'
import { useSums, type Sum } from '@/shell/sums'
import { minutesSeconds } from '@/shell/time'
import AdviceColumn from './AdviceColumn.vue'

defineEmits<{ evening: [] }>()
type Figure = 'magnification' | 'true_field' | 'exit_pupil' | 'focal_ratio' | 'drift'
const rungs = useRungs()
const evening = useEvening()
const sums = useSums()
const notices = useNotices()
const drift = useDriftTimer()
const tonight = shallowRef<Schema<'Tonight'> | null>(null)
const chosenBody = ref('moon')

const choices = computed(() => tonight.value?.targets.filter(target => target.is_showpiece) ?? [])
const target = computed(() => choices.value.find(one => one.body === chosenBody.value) ?? null)
const share = computed(() => {
  const one = target.value, rung = rungs.selected
  return one && rung ? one.diameter_arcsec / 3600 / rung.true_field_deg : null
})
async function openSum (figure: Figure) {
  const rung = rungs.selected
  const telescopeId = rungs.ladder?.telescope_id
  if (!rung || !telescopeId) return
  const amplifier = rung.amplifier_id === null ? '' : `&amplifier_id=${rung.amplifier_id}`
  try {
    sums.open = await call<Sum>(`/powers/sums/${figure}?telescope_id=${telescopeId}&eyepiece_id=${rung.eyepiece_id}${amplifier}`)
  } catch (error) {
    notices.say((error as Error).message)
  }
}
async function loadTonight () {
  tonight.value = await call<Schema<'Tonight'> | null>('/plan/tonight').catch(() => null)
}
async function toggleAmplifiers () {
  await evening.choose({ amplifiers_on: !evening.evening?.choice.amplifiers_on }).catch((error: Error) => notices.say(error.message))
}
onMounted(loadTonight)
watch(() => evening.version, loadTonight)
</script>

<template>
  <section v-if="rungs.ladder?.rungs.length && rungs.selected" class="powers">
    <section class="left" aria-label="Ladder">
      <header class="head">
        <h1>Ladder</h1>
        <span class="quiet small">{{ rungs.ladder.rungs.length }} rungs</span>
        <v-switch
          :model-value="evening.evening?.choice.amplifiers_on" color="primary" density="compact" label="Amplifiers" class="switch"
          @update:model-value="toggleAmplifiers"
        />
      </header>
      <LadderDrawing :ladder="rungs.ladder" :selected-key="rungs.selectedKey" class="drawing" @select="rungs.select" @step="rungs.step" />
    </section>

    <section class="middle" aria-label="View">
      <header class="head">
        <h1>View</h1>
        <v-btn-toggle v-if="choices.length" v-model="chosenBody" mandatory divided density="compact" variant="outlined" class="bodies">
          <v-btn v-for="one in choices" :key="one.body" :value="one.body" size="small">{{ one.label }}</v-btn>
        </v-btn-toggle>
        <button v-else type="button" class="link-button" @click="$emit('evening')">Choose a place to see tonight's Moon here</button>
      </header>
      <div class="disc"><FieldDisc :field-deg="rungs.selected.true_field_deg" :object="target" /></div>
      <p class="caption">
        <b>{{ rungs.selected.label }}.</b>{{ ' ' }}
        <template v-if="target && share !== null">{{ target.label }} drawn to size: {{ share >= 1 ? 'larger than the field.' : `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} % of the field across. ` }}</template>
        {{ rungs.selected.verdict }}
      </p>
      <div class="four">
        <BigFigure :value="rungs.selected.magnification.toFixed(0)" unit="×" label="power" @open="openSum('magnification')" />
        <BigFigure :value="rungs.selected.true_field_deg.toFixed(2)" unit="°" :about="rungs.selected.field_is_about" label="true field" @open="openSum('true_field')" />
        <BigFigure :value="rungs.selected.exit_pupil_mm.toFixed(1)" unit="mm" label="exit pupil" @open="openSum('exit_pupil')" />
        <BigFigure :value="minutesSeconds(rungs.selected.drift_s)" unit="min" :about="rungs.selected.field_is_about" label="edge to edge" @open="openSum('drift')" />
        <BigFigure :value="`f/${rungs.selected.focal_ratio.toFixed(1)}`" unit="" label="focal ratio" @open="openSum('focal_ratio')" />
      </div>
      <div class="timer">
        <v-btn @click="drift.toggle()">{{ drift.isRunning ? `Stop: ${minutesSeconds(drift.elapsedS)}` : 'Time a drift' }}</v-btn>
        <p v-if="drift.result" class="small">
          {{ minutesSeconds(drift.result.elapsed_s) }} on the equator is a field of
          <button type="button" class="link-button inline" @click="sums.open = drift.result.sum">{{ drift.result.true_field_deg.toFixed(2) }}°</button>
        </p>
        <p v-else class="small quiet">Measure a field: start when a star enters, stop when it leaves (Space).</p>
      </div>
    </section>

    <AdviceColumn :ladder="rungs.ladder" :targets="tonight?.targets ?? []" @select="rungs.select" />
  </section>

  <section v-else class="empty">
    <p v-if="rungs.refusal" role="alert">{{ rungs.refusal.problem.detail }}</p>
    <v-progress-linear v-else-if="rungs.isLoading || !evening.evening" indeterminate color="primary" aria-label="Working out the ladder" />
    <template v-else>
      <svg viewBox="0 0 120 140" width="150" aria-hidden="true"><path d="M38 8v124M82 8v124M38 30h44M38 62h44M38 98h44" /></svg>
      <h1>No ladder yet</h1>
      <p v-if="!evening.evening?.telescope">A telescope and one eyepiece make the first rung.</p>
      <template v-else>
        <p>No eyepiece stands in {{ evening.evening.telescope.name }} yet. Add one and its powers stand here.</p>
        <p v-for="misfit in rungs.ladder?.misfits ?? []" :key="misfit.reason">{{ misfit.reason }}</p>
      </template>
      <v-btn color="primary" variant="flat" to="/kit">Go to the kit</v-btn>
    </template>
  </section>
</template>

<style scoped>
.powers { height: 100%; display: grid; grid-template-columns: minmax(330px, 1.05fr) minmax(360px, 1.15fr) minmax(270px, 0.85fr); }
.left, .middle { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--line); padding: 10px 16px 12px; min-width: 0; }
.head { display: flex; align-items: center; gap: 10px; min-height: 48px; flex: none; }
.head h1 { margin-right: auto; }
.switch { flex: none; }
.drawing { flex: 1; min-height: 0; }
.middle { gap: 6px; overflow-y: auto; overflow-x: hidden; }
.disc { flex: 1 1 220px; min-height: 180px; }
.caption { min-height: 46px; }
.four { display: flex; flex-wrap: wrap; gap: 6px 14px; justify-content: space-between; }
.timer { display: flex; align-items: center; gap: 14px; min-height: 52px; }
.inline { padding: 0; min-height: 0; }
.bodies :deep(.v-btn) { min-width: 0; padding: 0 10px; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); stroke-width: 5; stroke-linecap: round; fill: none; }
@media (max-width: 1099px) {
  .powers { grid-template-columns: 1fr 1fr; overflow-y: auto; }
}
@media (max-width: 699px) {
  .powers { display: block; overflow-y: auto; }
  .left, .middle { border-right: 0; padding: 8px 12px; }
  .drawing { height: 460px; flex: none; }
  .disc { height: 320px; flex: none; }
}
</style>
