<script setup lang="ts">
import { computed, ref } from 'vue'
import BigFigure from '@/shell/BigFigure.vue'
import { useDriftTimer } from '@/stores/driftTimer'
import type { Rung } from '@/stores/rungs'
import { useSums } from '@/shell/sums'
import { minutesOrNever, minutesSeconds } from '@/shell/time'
import { useRungSum, type Figure } from './rungSum'
import { useStopKeeper } from '@/shell/stopKeeper'

const props = defineProps<{ rung: Rung }>()
const sums = useSums()
const drift = useDriftTimer()
const openFigure = useRungSum()
const keeper = useStopKeeper()
const showsAll = ref(false)
const isAbout = computed(() => props.rung.magnification_off_percent > 0)

const openSum = (figure: Figure) => openFigure(figure, props.rung.key)
const more = computed(() => [
  { figure: 'focal_ratio', label: 'focal ratio', value: `${isAbout.value ? 'about ' : ''}f/${props.rung.focal_ratio.toFixed(1)}` },
  { figure: 'nudge', label: 'nudge every', value: `${props.rung.field_off_percent ? 'about ' : ''}${minutesOrNever(props.rung.nudge_s)}` },
  { figure: 'working_aperture', label: 'working aperture', value: `${props.rung.working_aperture_mm < props.rung.aperture_mm ? 'about ' : ''}${props.rung.working_aperture_mm.toFixed(0)} mm` },
  { figure: 'brightness', label: 'surface brightness', value: `about ${(props.rung.relative_brightness * 100).toFixed(0)} %` },
  { figure: 'faintest', label: 'faintest star', value: `about ${props.rung.faintest_mag.toFixed(1)} mag` },
  { figure: 'dawes', label: 'Dawes', value: `${props.rung.dawes_arcsec.toFixed(2)}″` },
  { figure: 'rayleigh', label: 'Rayleigh', value: `${props.rung.rayleigh_arcsec.toFixed(2)}″` },
  { figure: 'eye_relief', label: 'eye relief', value: relief.value },
  { figure: 'shadow', label: "secondary's shadow", value: { none: 'none', by_day: 'by day', by_night: 'seen' }[props.rung.shadow] },
  { figure: 'refocus', label: 'without glasses', value: props.rung.refocus_mm === null ? 'unknown' : `${Math.abs(props.rung.refocus_mm).toFixed(2)} mm ${props.rung.refocus_mm < 0 ? 'in' : 'out'}` },
] as const)
const relief = computed(() => {
  const { eye_relief_mm: here, eye_relief_alone_mm: alone, amplifier_ids } = props.rung
  if (here === null || alone === null) return 'unknown'
  return amplifier_ids.length ? `about ${here.toFixed(0)} mm (alone ${alone.toFixed(0)})` : `${here.toFixed(0)} mm`
})
</script>

<template>
  <div class="four">
    <BigFigure :value="rung.magnification.toFixed(0)" unit="×" :about="isAbout" label="power"
      @open="openSum('magnification')" />
    <BigFigure :value="rung.true_field_deg.toFixed(2)" unit="°" :about="rung.field_off_percent > 0" label="true field"
      @open="openSum('true_field')" />
    <BigFigure :value="rung.exit_pupil_mm.toFixed(1)" unit="mm" :about="isAbout" label="exit pupil"
      @open="openSum('exit_pupil')" />
    <BigFigure :value="rung.drift_s === null ? 'never' : minutesSeconds(rung.drift_s)"
      :unit="rung.drift_s === null ? '' : 'min'" :about="rung.field_off_percent > 0"
      label="edge to edge" @open="openSum('drift')" />
  </div>
  <p class="caption small"><b>{{ rung.label }}.</b>{{ ' ' }}{{ rung.verdict }} {{ rung.glasses }}</p>
  <button type="button" class="link-button all" :aria-expanded="showsAll"
    @click="showsAll = !showsAll">{{ showsAll ? 'Fewer figures' : 'All figures of this rung' }}</button>
  <dl v-if="showsAll" class="more">
    <div v-for="one in more" :key="one.figure">
      <dt>{{ one.label }}</dt>
      <dd><button type="button" class="plain-button figures open"
        :aria-label="`${one.label}: ${one.value}. How is this worked out?`"
        @click="openSum(one.figure)">{{ one.value }}</button></dd>
    </div>
  </dl>
  <div v-if="showsAll || drift.isRunning || drift.result" class="timer">
    <v-btn size="small" @click="drift.toggle()">
      {{ drift.isRunning ? `Stop: ${minutesSeconds(drift.elapsedS)}` : 'Time a drift' }}
    </v-btn>
    <p v-if="drift.result" class="small">
      {{ minutesSeconds(drift.result.elapsed_s) }} on {{ drift.result.on }} is a field of
      <button type="button" class="link-button inline" @click="sums.open = drift.result.sum">
        {{ drift.result.true_field_deg.toFixed(2) }}°</button><template v-if="drift.result.stop_sum">, a stop of
        <button type="button" class="link-button inline" @click="sums.open = drift.result.stop_sum">
          {{ drift.result.field_stop_mm?.toFixed(1) }} mm</button></template>.
      <button v-if="drift.result.eyepiece && !keeper.isKept(drift.result)" type="button" class="link-button inline"
        @click="keeper.keep(drift.result)">Keep it with {{ drift.result.eyepiece.name }}</button>
      <template v-else-if="drift.result.eyepiece"> Kept with {{ drift.result.eyepiece.name }}.</template>
      <span v-if="keeper.refusal.value" role="alert">{{ keeper.refusal.value.words }}</span>
    </p>
    <p v-else class="small quiet">Start when a star enters, stop when it leaves (Space).</p>
  </div>
</template>

<style scoped>
.four { display: flex; flex-wrap: wrap; gap: 6px 14px; justify-content: space-between; }
.all { padding: 0; min-height: max(30px, var(--least)); }
.timer { display: flex; align-items: center; gap: 14px; }
.inline { padding: 0; min-height: 0; }
.more { display: grid; grid-template-columns: repeat(3, 1fr); gap: 8px 12px; margin: 0; }
dt { font-size: 13.5px; color: var(--ink-quiet); } dd { margin: 0; }
.open { text-decoration: underline dotted; text-underline-offset: 3px; min-height: max(32px, var(--least)); font-size: 15px; }
@media (max-width: 699px) { .more { grid-template-columns: 1fr 1fr; } .all { min-height: 48px; } .open { min-height: max(44px, var(--least)); } }
</style>
