<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { call, type Schema } from '@/api/client'
import { clockTime } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'
import { useSize } from '@/shell/width'
import EveningBar from './EveningBar.vue'
import NoteCard from './NoteCard.vue'

/** One evening opened: its bar, who was there and what it was like, the notes, and what was read while setting up. */
const props = defineProps<{ eveningId: number }>()
const { answer, refusal, isLoading, load } = useAsked(
  () => call<Schema<'EveningTold'>>(`/journal/evenings/${props.eveningId}`), ['journal', 'evening', 'setup', 'kit'],
)
onMounted(load)
const host = ref<HTMLElement | null>(null)
const { width } = useSize(host)
const bar = computed(() => answer.value?.bar ?? null)
const moon = computed(() => bar.value?.shape ? `Moon ${bar.value.shape.moon_lit_percent.toFixed(0)} % lit` : '')
const dark = computed(() => bar.value?.shape?.dark.map(one => `dark ${clockTime(one.start_utc, bar.value!.zone)}–${clockTime(one.end_utc, bar.value!.zone)}`).join(', ')
  || (bar.value?.shape ? 'no dark' : 'the place is not known, so neither is its dark'))
</script>

<template>
  <div ref="host" class="panel">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!answer" :active="isLoading" indeterminate color="primary"
      aria-label="Opening the evening" />
    <template v-if="answer && bar">
      <header><h2>{{ bar.day_words }}</h2><p class="quiet">{{ [bar.place_name, dark, moon].filter(Boolean).join(' · ')
        }}</p></header>
      <EveningBar :bar="bar" :width="width" tall />
      <p v-for="one in answer.sentences" :key="one">{{ one }}</p>
      <p v-if="bar.stays.length" class="quiet small">In the eyepiece: <template v-for="(one, n) in bar.stays"
        :key="one.start_utc">{{ n ? ', ' : '' }}{{ one.label }} from {{ clockTime(one.start_utc, bar.zone)
          }}</template>.</p>
      <section aria-label="Notes"><NoteCard v-for="one in answer.observations" :key="one.id ?? 0" :note="one"
        /></section>
      <p v-if="!answer.observations.length" class="quiet">Nothing was noted.</p>
      <details v-if="answer.readings.length">
        <summary>Set-up: {{ answer.readings.length }}
          {{ answer.readings.length === 1 ? 'reading' : 'readings' }}</summary>
        <ul class="readings">
          <li v-for="one in answer.readings" :key="`${one.title}${one.at_utc}`">
            <span class="figures quiet">{{ clockTime(one.at_utc, bar.zone) }}</span>
            <span><b>{{ one.title }}</b>{{ one.telescope_name ? `, ${one.telescope_name}` : '' }}{{ one.simulated ?
              `, practice with a simulated ${one.simulated}` : '' }}<br>{{ one.words }}
              <span v-if="one.spoiled_by" class="quiet">Held until {{ one.spoiled_by }}.</span></span>
          </li>
        </ul>
      </details>
    </template>
  </div>
</template>

<style scoped>
.panel { display: grid; gap: 10px; min-width: 0; }
summary { cursor: pointer; min-height: 48px; display: flex; align-items: center; font-weight: 600; color: var(--jade); }
.readings { list-style: none; margin: 0; padding: 0; display: grid; gap: 10px; } li { display: grid; grid-template-columns: 56px minmax(0, 1fr); }
</style>
