<script setup lang="ts">
import { computed, ref } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAttempt } from '@/shell/useAsked'

type Report = Schema<'ImportReport'>
const isOpen = defineModel<boolean>({ required: true })
const report = ref<Report | null>(null)
const { refusal, isBusy, attempt } = useAttempt()
const file = ref<File | null>(null)
const type = computed(() => file.value?.name.endsWith('.json') ? 'json' : 'csv')
const OUTCOMES = { new: 'will be added', changed: 'will replace the one you have', same: 'is the same already', refused: 'is refused' }

async function send (path: string) {
  const csv = file.value
  if (csv) report.value = await attempt(() => call<Report>(`${path}?file_type=${type.value}`, { method: 'POST', csv })) ?? null
}
async function choose (event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  await send('/kit/import-preview')
}
const apply = () => send('/kit/import')
function close () {
  isOpen.value = false
  report.value = null
  refusal.value = null
  file.value = null
}
</script>

<template>
  <v-dialog :model-value="isOpen" max-width="760" scrollable aria-label="Import kit" @update:model-value="close">
    <v-card class="import">
      <h1>Import kit from a file</h1>
      <p class="quiet">CSV with one item a row, or the JSON document. Export once to see the form. Nothing is stored
        before you say so.</p>
      <label class="file">
        <span>{{ file ? file.name : 'Choose a file …' }}</span>
        <input type="file" accept=".csv,.json,text/csv,application/json" class="sr-only" @change="choose">
      </label>
      <v-progress-linear v-if="isBusy" indeterminate color="primary" aria-label="Reading the file" />
      <p v-if="refusal" role="alert">{{ refusal.words }}</p>
      <template v-if="report">
        <p role="status">
          <b v-if="report.applied">Done: {{ report.new }} added, {{ report.changed }} replaced.</b>
          <b v-else-if="report.refused">Nothing can be imported: {{ report.refused }} of {{ report.rows.length }} rows
            are refused. Mend them in the file, then choose it again.</b>
          <template v-else>{{ report.new }} new, {{ report.changed }} changed, {{ report.same }} the same.</template>
        </p>
        <div class="rows scroll-y">
          <table>
            <thead><tr><th>Place</th><th>Item</th><th>Outcome</th></tr></thead>
            <tbody>
              <tr v-for="row in report.rows" :key="row.line" :class="row.outcome">
                <td class="figures">{{ row.line }}</td>
                <td>{{ row.item }} <b>{{ row.name }}</b></td>
                <td>
                  {{ OUTCOMES[row.outcome] }}
                  <div v-for="problem in row.problems" :key="problem.detail" class="problem">{{ problem.detail }}</div>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <div class="buttons">
        <v-btn v-if="report && !report.refused && !report.applied" color="primary" variant="flat" :loading="isBusy"
          @click="apply">
          Import {{ report.new + report.changed }} items
        </v-btn>
        <v-btn @click="close">{{ report?.applied ? 'Close' : 'Cancel' }}</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.import { padding: 24px; display: flex; flex-direction: column; gap: 16px; max-height: 90dvh; }
.file { border: 2px dashed var(--line); border-radius: 10px; min-height: 56px; display: grid; place-items: center; cursor: pointer; }
.file:focus-within { outline: 3px solid var(--jade); outline-offset: 2px; }
.rows { min-height: 0; max-height: 46dvh; }
table { width: 100%; border-collapse: collapse; }
th, td { text-align: left; padding: 8px; border-bottom: 1px solid var(--line); vertical-align: top; }
.refused td { background: var(--brass-wash); }
.problem { font-size: 14px; }
.buttons { display: flex; gap: 12px; }
</style>
