<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import LadderDrawing from '@/drawings/ladder/LadderDrawing.vue'
import SaveMenu from '@/drawings/SaveMenu.vue'
import { lazily } from '@/shell/lazily'
import { useEvening } from '@/stores/evening'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { useRungs } from '@/stores/rungs'
import { useTonight } from '@/stores/tonight'
import AdviceColumn from './AdviceColumn.vue'
import FiguresPanel from './FiguresPanel.vue'
import ViewPanel from './ViewPanel.vue'

const RungTable = lazily(() => import('./RungTable.vue'))
const ComparePanel = lazily(() => import('./ComparePanel.vue'))
const CasePanel = lazily(() => import('./CasePanel.vue'))

defineEmits<{ evening: [] }>()
const rungs = useRungs()
const evening = useEvening()
const notices = useNotices()
const host = ref<HTMLElement | null>(null)
const tonight = useTonight()
const tab = useKept<'ladder' | 'table' | 'compare' | 'case'>('powers-tab', 'ladder')
const TABS = { ladder: 'Ladder', table: 'Table', compare: 'Compare', case: 'Case for tonight' } as const
const WAYS = {
  ahead: 'Barlow ahead of the diagonal too',
  masked: 'Small cap opening too',
  stacked: 'Two amplifiers in a row too',
} as const
const csvHref = computed(() => {
  const query = new URLSearchParams({ telescope_id: String(rungs.ladder?.telescope_id), ...rungs.courseQuery() })
  for (const [way, isOn] of Object.entries(rungs.ways)) if (isOn) query.set(way, 'true')
  return `/api/powers/ladders.csv?${query}`
})

async function toggleAmplifiers (isOn: boolean | null) {
  await evening.choose({ amplifiers_on: isOn === true }).catch((error: Error) => notices.say(error.message))
}
async function toggleWay (way: keyof typeof WAYS, isOn: boolean | null) {
  rungs.ways = { ...rungs.ways, [way]: isOn === true }
  await rungs.load()
}
onMounted(tonight.load)
</script>

<template>
  <section v-if="rungs.ladder?.rungs.length && rungs.selected" class="powers">
    <header class="tabs">
      <h1 class="sr-only">Powers</h1>
      <v-btn-toggle role="group" v-model="tab" mandatory divided variant="outlined" aria-label="What to show">
        <v-btn v-for="(word, name) in TABS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <span class="space" />
      <span v-if="evening.evening?.telescope?.is_new" class="quiet small first">First light: amplifiers are off until
        you want them.</span>
      <v-switch :model-value="rungs.ladder.amplifiers_on" color="primary" density="compact" label="Amplifiers"
        class="switch" @update:model-value="toggleAmplifiers" />
      <v-menu :close-on-content-click="false" location="bottom end" role="region" aria-label="More ways">
        <template #activator="{ props: bound }"><v-btn v-bind="bound" variant="text">More ways</v-btn></template>
        <div class="ways">
          <v-switch v-for="(word, way) in WAYS" :key="way" :model-value="rungs.ways[way]" color="primary"
            density="compact" :label="word" @update:model-value="toggleWay(way, $event)" />
        </div>
      </v-menu>
    </header>

    <RungTable v-if="tab === 'table'" :ladder="rungs.ladder" :csv-href="csvHref" :selected-key="rungs.selectedKey"
      class="full" @select="rungs.select" />
    <ComparePanel v-else-if="tab === 'compare'" class="full" />
    <CasePanel v-else-if="tab === 'case' && rungs.ladder.telescope_id" :telescope-id="rungs.ladder.telescope_id"
      :ladder="rungs.ladder" class="full" />
    <template v-else>
      <section class="left" aria-label="Ladder">
        <header class="head">
          <h2>{{ rungs.ladder.rungs.length }} rungs, {{ rungs.ladder.telescope_name }}</h2>
          <SaveMenu :host="host" name="ladder" />
        </header>
        <div ref="host" class="drawing">
          <LadderDrawing :ladder="rungs.ladder" :selected-key="rungs.selectedKey" @select="rungs.select"
            @step="rungs.step" />
        </div>
      </section>
      <section class="middle" aria-label="View">
        <ViewPanel />
        <FiguresPanel :rung="rungs.selected" />
      </section>
      <AdviceColumn :ladder="rungs.ladder" :sights="tonight.tonight?.sights ?? []" @select="rungs.select" />
    </template>
  </section>

  <section v-else class="empty">
    <p v-if="rungs.refusal" role="alert">{{ rungs.refusal.words }}</p>
    <v-progress-linear v-else-if="rungs.isLoading || !evening.evening" indeterminate color="primary"
      aria-label="Working out the ladder" />
    <template v-else>
      <svg viewBox="0 0 120 140" width="150" aria-hidden="true"><path
        d="M38 8v124M82 8v124M38 30h44M38 62h44M38 98h44" /></svg>
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
.powers {
  height: 100%; display: grid; grid-template-columns: minmax(330px, 1.05fr) minmax(360px, 1.15fr) minmax(260px, 0.8fr);
  grid-template-rows: auto minmax(0, 1fr);
}
.tabs { grid-column: 1 / -1; display: flex; align-items: center; gap: 12px; padding: 4px 16px; border-bottom: 1px solid var(--line); flex-wrap: wrap; }
.space { flex: 1; }
.switch { flex: none; }
.ways { background: var(--surface); border: 1px solid var(--line); border-radius: 12px; padding: 8px 18px; }
.full { grid-column: 1 / -1; min-height: 0; }
.left, .middle { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--line); padding: 6px 16px 10px; min-width: 0; }
.head { display: flex; align-items: center; justify-content: space-between; gap: 10px; flex: none; }
.drawing { flex: 1; min-height: 0; }
.middle { gap: 5px; overflow-y: auto; overflow-x: hidden; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); stroke-width: 5; stroke-linecap: round; fill: none; }
@media (max-width: 1099px) { .powers { grid-template-columns: 1fr 1fr; overflow-y: auto; } }
@media (max-width: 699px) {
  .powers { display: block; overflow-y: auto; }
  .tabs { padding: 6px 8px; gap: 4px; overflow-x: auto; }
  .tabs :deep(.v-btn) { padding: 0 9px; }
  .left, .middle { border-right: 0; padding: 8px 12px; }
  .drawing { height: 460px; flex: none; }
}
</style>
