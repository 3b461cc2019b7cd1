<script setup lang="ts" generic="R">
import PageDialog from './PageDialog.vue'
import { computed, shallowRef } from 'vue'
import { call, type FieldProblem } from '@/api/client'
import { useAttempt } from './useAsked'

/** A report as it is shown: what it says, whether it may be applied or was, and each row. */
export interface ToldReport {
  words: string
  isApplied: boolean
  isRefused: boolean
  /** What the button says that applies it. */
  apply: string
  rows: readonly { line: number, kind: string, name: string, outcome: string, problems: readonly FieldProblem[] }[]
}
/** A file is read and reported row by row before anything of it is kept: all of it or nothing. */
const props = defineProps<{ title: string, hint: string, preview: string, store: string, told: (report: R) => ToldReport }>()
const emit = defineEmits<{ applied: [] }>()
const isOpen = defineModel<boolean>({ required: true })
const report = shallowRef<R | null>(null)
const { refusal, isBusy, attempt, once } = useAttempt()
const file = shallowRef<File | null>(null)
const shown = computed(() => report.value === null ? null : props.told(report.value))

async function send (path: string, by = attempt) {
  const csv = file.value
  if (!csv) return
  const query = new URLSearchParams({ file_type: csv.name.endsWith('.json') ? 'json' : 'csv', name: csv.name.slice(0, 80) })
  report.value = await by(() => call<R>(`${path}?${query}`, { method: 'POST', csv })) ?? null
}
async function choose (event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  await send(props.preview)
}
async function apply () {
  await send(props.store, once)
  if (shown.value?.isApplied) emit('applied')
}
function close () {
  isOpen.value = false
  report.value = null
  refusal.value = null
  file.value = null
}
</script>

<template>
  <PageDialog :model-value="isOpen" max-width="760" scrollable :aria-label="title" @update:model-value="close">
    <v-card class="import">
      <h1>{{ title }}</h1>
      <p class="quiet">{{ hint }} Nothing is stored before you say so.</p>
      <label class="file">
        <span>{{ file ? file.name : 'Choose a file …' }}</span>
        <input type="file" accept=".csv,.json,text/csv,application/json" class="sr-only" @change="choose">
      </label>
      <v-progress-linear v-if="isBusy" indeterminate color="primary" aria-label="Reading the file" />
      <p v-if="refusal" role="alert">{{ refusal.words }}</p>
      <template v-if="shown">
        <p role="status"><component :is="shown.isApplied || shown.isRefused ? 'b' : 'span'">{{ shown.words
          }}</component></p>
        <div class="rows scroll-y">
          <table>
            <thead><tr><th scope="col">Place</th><th scope="col">Item</th><th scope="col">Outcome</th></tr></thead>
            <tbody>
              <tr v-for="row in shown.rows" :key="row.line" :class="{ refused: row.problems.length }">
                <td class="figures">{{ row.line }}</td>
                <td>{{ row.kind }} <b>{{ row.name }}</b></td>
                <td>
                  {{ row.outcome }}
                  <div v-for="problem in row.problems" :key="problem.detail" class="problem">{{ problem.detail }}</div>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <div class="buttons">
        <v-btn v-if="shown && !shown.isRefused && !shown.isApplied" color="primary" variant="flat" :loading="isBusy"
          @click="apply">
          {{ shown.apply }}
        </v-btn>
        <v-btn @click="close">{{ shown?.isApplied ? 'Close' : 'Cancel' }}</v-btn>
      </div>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.import { padding: 24px; display: flex; flex-direction: column; gap: 16px; max-height: 90dvh; }
.file { border: 2px dashed var(--edge); border-radius: 10px; min-height: 56px; display: grid; place-items: center; cursor: pointer; }
.file:focus-within { outline: 3px solid var(--jade); outline-offset: 2px; }
.rows { min-height: 0; max-height: 46dvh; }
table { width: 100%; border-collapse: collapse; }
th, td { text-align: left; padding: 8px; border-bottom: 1px solid var(--line); vertical-align: top; }
.refused td { background: var(--brass-wash); }
.problem { font-size: 14px; }
.buttons { display: flex; gap: 12px; }
</style>
