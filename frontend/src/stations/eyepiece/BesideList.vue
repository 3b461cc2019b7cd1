<script setup lang="ts">
import { computed } from 'vue'
import SlimLadder from '@/drawings/SlimLadder.vue'
import HonestMark from '@/shell/HonestMark.vue'
import { clockTime } from '@/shell/time'
import { useEvening } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'

/** What goes with the step: the ladder, who looks, the eyes, the air, and what comes next by the clock. */
const emit = defineEmits<{ people: [], air: [] }>()
const store = useEyepiece()
const evening = useEvening()
const events = computed(() => store.screen?.events.slice(0, 2) ?? [])
const person = computed(() => store.screen?.person ?? null)
const queue = computed(() => store.screen?.queue)
const hint = computed(() => queue.value?.now)
const next = computed(() => queue.value?.next.map(name => name.split(' ')[0]).join(', ') ?? '')
const air = computed(() => {
  const one = store.screen?.air
  if (!one) return ''
  const word = (steps: readonly { step: number, word: string }[], step: number | null | undefined) => steps.find(each => each.step === step)?.word
  const steady = word(one.steady_steps, one.steadiness), clear = word(one.clear_steps, one.transparency)
  return [steady && `air ${steady}`, clear && `sky ${clear}`, one.faintest_seen_mag && `stars to ${one.faintest_seen_mag.toFixed(1)}`]
    .filter(Boolean).join(', ')
})
</script>

<template>
  <SlimLadder v-if="store.here" :rungs="store.here.rungs" :standing="store.step?.spot.rung_key || undefined"
    :air="store.here.air_magnification" class="ladder" />
  <button type="button" class="line plain-button" @click="emit('people')">
    <span class="quiet small">At the eyepiece</span>
    <span><b>{{ person?.name ?? 'Who looks?' }}</b><template v-if="next">, then {{ next }}</template></span>
    <span v-for="words in [hint?.focus, hint?.glasses, hint?.reach].filter(Boolean)" :key="words"
      class="small">{{ words }}</span>
    <span v-if="queue?.words" class="small">{{ queue.words }}</span>
  </button>
  <p class="line eyes"><span>{{ store.screen?.eyes.words }}</span></p>
  <button type="button" class="line plain-button" @click="emit('air')">
    <span class="quiet small">Air and sky</span>
    <span>{{ air || 'Not judged yet: how steady, how clear?' }}</span>
  </button>
  <section class="then">
    <h2>Then</h2>
    <p v-for="one in events" :key="one.words" :class="{ due: one.is_due }">
      <b class="figures">{{ one.is_due ? 'now' : clockTime(one.at_utc, evening.zone) }}</b> {{ one.words }}
      <HonestMark v-if="one.is_simulated" words="simulated" />
    </p>
  </section>
</template>

<style scoped>
.ladder { height: 186px; }
.ladder, .line, .then { flex: none; }
.then { display: grid; gap: 2px; border-top: 1px solid var(--line); padding-top: 8px; font-size: 14.5px; }
.then h2 { font-size: 14px; color: var(--ink-quiet); font-weight: 400; }
.due { font-weight: 700; }
.line { display: grid; gap: 1px; border-top: 1px solid var(--line); padding-top: 8px; min-height: 48px; align-content: start; font-size: 15px; }
.eyes { min-height: 0; }
button.line:hover { color: var(--jade); }
</style>
