<script setup lang="ts">
import { computed, onMounted, ref, watch, type Component } from 'vue'
import { lazily } from '@/shell/lazily'
import { useEvening } from '@/stores/evening'
import BenchPath from './BenchPath.vue'
import { useBench } from '@/stores/bench'
import AssembleStep from './steps/AssembleStep.vue'

defineEmits<{ evening: [] }>()
const store = useBench()
const evening = useEvening()
/** A step of the bench by its name: `level` is shown by `LevelStep.vue`. */
const STEPS: Record<string, Component> = { assemble: AssembleStep }
const others = import.meta.glob<{ default: Component }>(['./steps/*Step.vue', '!./steps/AssembleStep.vue'])
for (const [path, load] of Object.entries(others)) {
  const name = path.replace(/^.*\/(\w+)Step\.vue$/, '$1').toLowerCase()
  STEPS[name] = lazily(load)
}
const current = computed(() => STEPS[store.chosen] ?? AssembleStep)
/** Every step begins at its top. */
const host = ref<HTMLElement | null>(null)
watch(() => store.chosen, () => host.value?.scrollTo(0, 0), { flush: 'post' })
onMounted(store.load)
</script>

<template>
  <section v-if="store.bench && store.step" ref="host" class="setup">
    <BenchPath :bench="store.bench" class="path" />
    <component :is="current" :key="`${store.chosen}-${store.bench.telescope.id}`" :bench="store.bench" class="step" />
  </section>
  <section v-else class="empty">
    <p v-if="store.refusal" role="alert">{{ store.refusal.words }}</p>
    <v-progress-linear v-else-if="!store.isAsked || !evening.evening" indeterminate color="primary"
      aria-label="Laying out the bench" />
    <template v-else>
      <svg viewBox="0 0 160 96" width="230" aria-hidden="true"><path
        d="M30 92 80 34l50 58M80 34v58M56 26h48M62 14l44 22" /><circle cx="80" cy="34" r="7" /></svg>
      <h1>Set-up</h1>
      <p v-if="!evening.evening.telescope">Put a telescope on the bench and its set-up stands here, step by step.</p>
      <p v-else>The Sun, north and the heights depend on where you stand.</p>
      <v-btn v-if="!evening.evening.telescope" color="primary" variant="flat" size="large" to="/kit">Go to the
        kit</v-btn>
      <v-btn v-else color="primary" variant="flat" size="large" @click="$emit('evening')">Choose your place</v-btn>
    </template>
  </section>
</template>

<style scoped>
.setup { height: 100%; display: grid; grid-template-columns: 236px minmax(0, 1fr); min-height: 0; }
.step { min-height: 0; min-width: 0; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: var(--ground); stroke-width: 3; stroke-linecap: round; stroke-linejoin: round; }
@media (max-width: 1099px) { .setup { grid-template-columns: 200px minmax(0, 1fr); } }
@media (max-width: 699px) { .setup { display: block; overflow-y: auto; } }
</style>
<style>
/* Every step: the instrument large in the middle, what to do at the right. */
.bench-step { display: grid; grid-template-columns: minmax(0, 1fr) 328px; height: 100%; }
.bench-step > .instrument { padding: 14px 20px; display: flex; flex-direction: column; gap: 12px; min-height: 0; min-width: 0; overflow-y: auto; overflow-x: hidden; }
.bench-step .why { color: var(--ink-quiet); }
.bench-step .drawing { flex: 1 1 260px; min-height: 220px; }
.bench-step .fields { display: grid; grid-template-columns: repeat(auto-fit, minmax(126px, 1fr)); gap: 14px 10px; align-items: start; flex: none; }
.bench-step svg:focus { outline: none; }
.bench-step svg:focus-visible { outline: 3px solid var(--jade); outline-offset: -3px; }
.bench-step .v-btn[aria-pressed='true'] { background: var(--jade-wash); box-shadow: inset 0 -4px 0 var(--jade); }
.bench-step .ways { flex: none; align-self: start; max-width: 100%; overflow-x: auto; }
.bench-step .ways .v-btn { padding: 0 13px; }
@media (max-width: 1099px) { .bench-step { grid-template-columns: minmax(0, 1fr); height: auto; overflow-y: auto; } }
@media (max-width: 699px) {
  .bench-step { display: flex; flex-direction: column; overflow: visible; height: auto; }
  .bench-step > .instrument { padding: 12px; overflow: visible; }
  .bench-step .drawing { flex: none; height: min(86vw, 340px); min-height: 0; }
}
</style>
