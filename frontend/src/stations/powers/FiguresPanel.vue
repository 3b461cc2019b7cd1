<script setup lang="ts">
import { computed, ref } from 'vue'
import { call } from '@/api/client'
import BigFigure from '@/shell/BigFigure.vue'
import { useDriftTimer } from '@/stores/driftTimer'
import { useNotices } from '@/shell/notices'
import { useRungs, type Rung } from '@/stores/rungs'
import { useSums, type Sum } from '@/shell/sums'
import { minutesSeconds } from '@/shell/time'

const props = defineProps<{ rung: Rung }>()
type Figure = 'magnification' | 'true_field' | 'exit_pupil' | 'drift' | 'focal_ratio' | 'nudge' | 'working_aperture' | 'brightness' | 'faintest' | 'dawes' | 'rayleigh' | 'eye_relief' | 'refocus'
const rungs = useRungs()
const sums = useSums()
const notices = useNotices()
const drift = useDriftTimer()
const showsAll = ref(false)
const isAbout = computed(() => props.rung.magnification_off_percent > 0)

async function openSum (figure: Figure) {
  const query = new URLSearchParams({
    telescope_id: String(rungs.ladder?.telescope_id), rung: props.rung.key, declination_deg: String(rungs.declinationDeg),
  })
  try {
    sums.open = await call<Sum>(`/powers/sums/${figure}?${query}`)
  } catch (error) {
    notices.say((error as Error).message)
  }
}
const more = computed(() => [
  { figure: 'focal_ratio', label: 'focal ratio', value: `f/${props.rung.focal_ratio.toFixed(1)}` },
  { figure: 'nudge', label: 'nudge every', value: `${minutesSeconds(props.rung.nudge_s)} min` },
  { figure: 'working_aperture', label: 'working aperture', value: `${props.rung.working_aperture_mm.toFixed(0)} mm` },
  { figure: 'brightness', label: 'surface brightness', value: `${(props.rung.relative_brightness * 100).toFixed(0)} %` },
  { figure: 'faintest', label: 'faintest star', value: `about ${props.rung.faintest_mag.toFixed(1)} mag` },
  { figure: 'dawes', label: 'Dawes', value: `${props.rung.dawes_arcsec.toFixed(2)}″` },
  { figure: 'rayleigh', label: 'Rayleigh', value: `${props.rung.rayleigh_arcsec.toFixed(2)}″` },
  { figure: 'eye_relief', label: 'eye relief', value: relief.value },
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
    <BigFigure :value="minutesSeconds(rung.drift_s)" unit="min" :about="rung.field_off_percent > 0"
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
      {{ minutesSeconds(drift.result.elapsed_s) }} on the equator is a field of
      <button type="button" class="link-button inline" @click="sums.open = drift.result.sum">
        {{ drift.result.true_field_deg.toFixed(2) }}°
      </button>
    </p>
    <p v-else class="small quiet">Start when a star enters, stop when it leaves (Space).</p>
  </div>
</template>

<style scoped>
.four { display: flex; flex-wrap: wrap; gap: 6px 14px; justify-content: space-between; }
.all { padding: 0; min-height: 30px; }
.timer { display: flex; align-items: center; gap: 14px; }
.inline { padding: 0; min-height: 0; }
.more { display: grid; grid-template-columns: repeat(3, 1fr); gap: 8px 12px; margin: 0; }
dt { font-size: 13.5px; color: var(--ink-quiet); } dd { margin: 0; }
.open { text-decoration: underline dotted; text-underline-offset: 3px; min-height: 32px; font-size: 15px; }
@media (max-width: 699px) { .more { grid-template-columns: 1fr 1fr; } .all { min-height: 48px; } .open { min-height: 44px; } }
</style>
