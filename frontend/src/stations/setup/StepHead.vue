<script setup lang="ts">
import HonestMark from '@/shell/HonestMark.vue'
import { useEvening } from '@/stores/evening'
import { clockTime } from '@/shell/time'
import { useBench } from '@/stores/bench'

/** What the step is, why, how it stands, and opening it again. */
const store = useBench()
const evening = useEvening()
function spoils () {
  const names = store.step?.spoils ?? []
  return store.bench?.steps.filter(one => names.includes(one.name) && one.state === 'done').map(one => one.title.toLowerCase()) ?? []
}
</script>

<template>
  <header v-if="store.step" class="step-head">
    <h1>{{ store.step.title }}</h1>
    <p class="why">{{ store.step.why }}</p>
    <p v-if="store.step.not_safe" class="sun-frame" role="alert"><b>{{ store.step.not_safe }}</b></p>
    <p v-if="store.step.state === 'done' || store.step.state === 'unsafe'" class="done small">
      <HonestMark v-if="store.step.simulated" words="practice" />
      {{ store.step.is_good ? 'Done' : 'Noted' }} {{ clockTime(store.step.recorded_at_utc, evening.zone) }}:
        {{ store.step.words }}
      <button type="button" class="link-button again"
        @click="store.change(`steps/${store.step.name}/reopen`, 'Open again.')">Open again<template
        v-if="spoils().length">, which also spoils {{ spoils().join(', ') }}</template></button>
    </p>
    <p v-else-if="store.step.state === 'spoiled'" class="spoiled small"><b>To do again:</b>
      {{ store.step.spoiled_by }}. It read: {{ store.step.words }}</p>
  </header>
</template>

<style scoped>
.step-head { display: grid; gap: 2px; flex: none; }
.done { border-left: 5px solid var(--jade); padding-left: 10px; }
.spoiled { border-left: 5px dashed var(--brass); padding-left: 10px; }
.again { padding: 0; min-height: max(28px, var(--least)); font-size: 14px; }
@media (max-width: 699px) { .again { min-height: 48px; } }
</style>
