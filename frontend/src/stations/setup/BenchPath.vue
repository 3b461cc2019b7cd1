<script setup lang="ts">
import { ref, watch } from 'vue'
import SunRing from '@/drawings/dials/SunRing.vue'
import { useEvening } from '@/stores/evening'
import { clockTime } from '@/shell/time'
import { useBench, type Bench, type Step } from '@/stores/bench'

defineProps<{ bench: Bench }>()
const store = useBench()
const evening = useEvening()
const happened = ref(false)
const list = ref<HTMLElement | null>(null)
/** The step one stands at is in sight, also in the row of a phone. */
watch(() => store.chosen, () => {
  list.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'center' })
}, { flush: 'post' })
const MARK = { to_do: '', done: '✓', spoiled: '!', unsafe: '!', noted: '~', not_needed: '–' } as const
/** A step as the path draws it: what is not safe now comes before everything else it may be. */
function look (step: Step) {
  if (step.not_safe) return 'unsafe'
  return step.state === 'done' && (!step.is_good || step.simulated) ? 'noted' : step.state
}
const titles = (bench: Bench, names: readonly string[]) => bench.steps.filter(one => names.includes(one.name)).map(one => one.title.toLowerCase()).join(', ')
function stateWords (step: Step) {
  if (step.not_safe) return 'not safe now'
  if (step.state === 'done' && step.simulated) return `practice ${clockTime(step.recorded_at_utc, evening.zone)}`
  if (step.state === 'done') return `${step.is_good ? 'done' : 'noted'} ${clockTime(step.recorded_at_utc, evening.zone)}`
  if (step.state === 'spoiled') return 'to do again'
  return step.state === 'not_needed' ? 'not needed' : 'to do'
}
async function say (mishap: Bench['mishaps'][number]) {
  happened.value = false
  await store.change(`mishaps/${mishap.mishap}`, `${mishap.words}. Steps it spoils are open again.`)
}
</script>

<template>
  <nav class="bench-path" aria-label="Set-up steps">
    <ol ref="list">
      <li v-for="(step, n) in bench.steps" :key="step.name">
        <button
          type="button" :class="['stop', look(step)]"
          :aria-current="step.name === store.chosen ? 'step' : undefined"
          :aria-description="step.not_safe || step.spoiled_by || step.words || step.why" @click="store.goTo(step.name)"
        >
          <span class="mark"
            aria-hidden="true">{{ MARK[look(step)] || n + 1 }}</span>
          <span class="title">{{ step.title }}</span>
          <span class="state small">{{ stateWords(step) }}</span>
        </button>
      </li>
    </ol>
    <div class="foot">
    <v-menu v-model="happened" location="top start" role="region" aria-label="What moved">
      <template #activator="{ props }"><v-btn v-bind="props" variant="text" class="happened">Something moved
        …</v-btn></template>
      <div class="mishaps">
        <button v-for="one in bench.mishaps" :key="one.mishap" type="button" class="plain-button mishap"
          @click="say(one)">
          <b>{{ one.words }}</b><span class="quiet small">spoils {{ titles(bench, one.spoils) }}</span>
        </button>
      </div>
    </v-menu>
    <figure class="sun-frame sun" :class="{ hidden: !bench.ring.is_up }">
      <SunRing :ring="bench.ring" :zone="evening.zone" />
      <figcaption v-if="bench.ring.is_up" class="small"><b>The Sun is up</b><template
        v-if="bench.ring.counts_until_utc"> until
        {{ clockTime(bench.ring.counts_until_utc, evening.zone) }}</template>. Never aim into the hatched
        part.<template v-if="evening.clockWords"> By the {{ evening.clockWords }}.</template></figcaption>
    </figure>
    </div>
    <a class="link-button card" href="/api/setup/card.pdf" download>Print the set-up card</a>
  </nav>
</template>

<style scoped>
.bench-path { border-right: 1px solid var(--line); display: flex; flex-direction: column; min-height: 0; overflow-y: auto; padding: 6px 0; }
ol { list-style: none; margin: 0; padding: 0; }
.stop {
  display: grid; grid-template-columns: 30px 1fr; column-gap: 8px; align-items: center; width: 100%; text-align: left; min-height: max(40px, var(--least)); padding: 2px 10px 2px 12px;
  background: none; border: 0; border-left: 4px solid transparent; color: inherit; font: inherit; font-size: 15px; cursor: pointer; line-height: 1.15;
}
.stop:focus-visible { outline-offset: -3px; }
.stop[aria-current] { border-left-color: var(--jade); background: var(--jade-wash); font-weight: 700; }
.mark { grid-row: 1 / 3; width: 28px; height: 28px; border-radius: 50%; border: 2px solid var(--ink-quiet); display: grid; place-content: center; font-size: 14px; font-weight: 700; }
.done .mark { background: var(--jade); border-color: var(--jade); color: var(--on-jade); }
.noted .mark { border-color: var(--brass); color: var(--brass-ink); }
.spoiled .mark { background: var(--brass-wash); border-color: var(--brass); color: var(--brass-ink); border-style: dashed; }
.unsafe .mark { border: 3px solid var(--sun); background: var(--ground); color: var(--ink); }
.unsafe .state { color: var(--ink); font-weight: 700; }
.not_needed .mark { border-style: dotted; }
.state { color: var(--ink-quiet); font-size: 12.5px; font-weight: 400; }
.foot { flex: 1; display: flex; flex-direction: column; }
.stop[aria-current] .state { color: var(--ink); }
.happened { align-self: start; margin-left: 6px; }
.mishaps { background: var(--surface); border: 1px solid var(--line); border-radius: 12px; padding: 8px; display: grid; max-width: 320px; }
.mishap { display: grid; padding: 10px 12px; min-height: 48px; border-radius: 8px; }
.mishap:hover { background: var(--jade-wash); }
.sun { margin: auto 8px 0; display: grid; gap: 4px; padding: 6px; background: var(--ground); grid-template-columns: 92px 1fr; align-items: center; }
.sun :deep(svg) { height: 92px; }
.sun figcaption { font-size: 13px; line-height: 1.2; }
.hidden { display: none; }
.card { padding: 8px 16px; min-height: max(40px, var(--least)); display: grid; align-items: center; text-decoration: none; }
@media (max-width: 699px) {
  .bench-path { border-right: 0; border-bottom: 1px solid var(--line); overflow: visible; padding: 0; }
  ol { display: flex; overflow-x: auto; }
  .stop { grid-template-columns: auto; justify-items: center; text-align: center; min-width: 92px; min-height: 76px; border-left: 0; border-bottom: 4px solid transparent; padding: 6px; }
  .stop[aria-current] { border-bottom-color: var(--jade); }
  .mark { grid-row: auto; }
  .foot { flex-direction: row-reverse; align-items: center; padding: 4px 8px 6px; gap: 6px; }
  .happened { flex: none; padding: 0 6px; margin: 0; align-self: center; }
  .card { display: none; }
  .sun { margin: 0; flex: 1; grid-template-columns: 50px 1fr; padding: 2px 6px; }
  .sun :deep(svg) { height: 50px; }
}
</style>
