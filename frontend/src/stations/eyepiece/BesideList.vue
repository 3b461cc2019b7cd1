<script setup lang="ts">
import { computed } from 'vue'
import { useEyepiece } from '@/stores/eyepiece'

/** Who looks, the eyes, and the air, each a line that opens. */
const emit = defineEmits<{ people: [], air: [] }>()
const store = useEyepiece()
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
</template>

<style scoped>
.line { display: grid; gap: 1px; border-top: 1px solid var(--line); padding-top: 8px; min-height: 48px; align-content: start; font-size: 15px; }
.eyes { min-height: 0; }
button.line:hover { color: var(--jade); }
</style>
