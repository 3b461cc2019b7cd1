<script setup lang="ts">
import { computed, onMounted, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import FindChart from '@/drawings/FindChart.vue'
import ViewDisc from '@/drawings/ViewDisc.vue'
import { clockTime } from '@/shell/time'
import { useParts } from '@/shell/useParts'
import { useEvening } from '@/stores/evening'
import { useRungs } from '@/stores/rungs'

/** Three charts in a row: by eye, in the finder as it shows the sky, and in the eyepiece one starts with. */
const props = defineProps<{ targetKey: string, atUtc: string }>()
const evening = useEvening()
const rungs = useRungs()
interface Both { path: Schema<'FindingPath'> | null, disc: Schema<'Disc'> | null }
async function askDisc () {
  const start = rungs.ladder?.start?.key
  const telescope = evening.evening?.telescope?.id
  if (!start || !telescope) return null
  const asked = { telescope_id: String(telescope), rung: start, target: props.targetKey, at_utc: props.atUtc }
  return call<Schema<'Disc'>>(`/powers/disc?${new URLSearchParams(asked)}`)
}
const { answer, refusal, load } = useParts<Both>({
  path: {
    title: 'the way there',
    ask: () => call(`/plan/target/${encodeURIComponent(props.targetKey)}/path?${new URLSearchParams({ at_utc: props.atUtc })}`),
  },
  disc: { title: 'the view', ask: askDisc },
}, ['evening', 'kit'])
onMounted(load)
watch([() => props.targetKey, () => props.atUtc, () => rungs.ladder?.start?.key], () => void load())
const path = computed(() => answer.value?.path ?? null)
const startLabel = computed(() => rungs.ladder?.rungs.find(one => one.key === rungs.ladder?.start?.key)?.label ?? '')
</script>

<template>
  <section class="path" aria-label="How to find it">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <template v-if="answer">
      <p class="small quiet">How to find it at {{ clockTime(path?.at_utc ?? atUtc, evening.zone) }}</p>
      <p v-if="!path" class="small">No bright star stands clear of your skyline then; wait, or point by altitude and
        direction.</p>
      <div class="charts">
        <FindChart v-for="chart in path?.charts ?? []" :key="chart.title" :chart="chart" :start="path?.start_label
          ?? ''" />
        <figure v-if="answer.disc">
          <ViewDisc :disc="answer.disc" />
          <figcaption><b>{{ startLabel }}</b><span class="small">{{ answer.disc.words }}</span></figcaption>
        </figure>
      </div>
    </template>
  </section>
</template>

<style scoped>
.charts { display: grid; grid-template-columns: repeat(auto-fit, minmax(150px, 1fr)); gap: 14px; }
figure { margin: 0; display: grid; gap: 4px; justify-items: center; text-align: center; align-content: start; }
figure :deep(svg) { width: 100%; max-width: 210px; height: auto; } figcaption { display: grid; }
</style>
