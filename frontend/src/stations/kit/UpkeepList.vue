<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Refusal } from '@/api/client'
import type { Upkeep } from '@/api/items'
import FieldForm from '@/shell/FieldForm.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import { asText, asTyped, type Field } from '@/shell/fields'
import { useEvening } from '@/shell/evening'
import { localStamp } from '@/shell/time'
import type { KindName } from './kitFields'
import { useKit } from './kitStore'

const props = defineProps<{ kind: KindName, itemId: number }>()
const kit = useKit()
const evening = useEvening()
const editing = ref<Upkeep | null>(null)
const values = ref<Record<string, unknown>>({})
const refusal = ref<Refusal | null>(null)
const FIELDS: readonly Field[] = [
  {
    key: 'task', label: 'Task', options: [
      { title: 'Battery', value: 'battery' },
      { title: 'Cleaning', value: 'cleaning' },
      { title: 'Collimation', value: 'collimation' },
      { title: 'Inspection', value: 'inspection' },
    ],
  },
  { key: 'note', label: 'Note (such as the battery type)', optional: true },
  { key: 'last_done', label: 'Last done', hint: 'Year-month-day; empty if never.' },
  { key: 'every_days', label: 'Every', unit: 'days' },
]
const own = computed(() => kit.allUpkeep.filter(one => one.item_kind === props.kind && one.item_id === props.itemId))
const isDue = (task: Upkeep) => kit.due.some(due => due.upkeep.id === task.id)
const today = computed(() => localStamp(evening.evening?.now_utc ?? new Date().toISOString(), evening.zone).slice(0, 10))

function begin (task: Upkeep | null) {
  refusal.value = null
  const fresh = { item_kind: props.kind, item_id: props.itemId, task: 'battery', note: '', every_days: 180 } as Upkeep
  editing.value = task ?? fresh
  values.value = asText(FIELDS, editing.value)
}
async function attempt (act: () => Promise<void>) {
  try {
    await act()
    editing.value = null
    refusal.value = null
  } catch (error) {
    refusal.value = error as Refusal
  }
}
const save = () => attempt(() => kit.saveUpkeep({ ...editing.value!, ...asTyped(FIELDS, values.value) } as Upkeep))
const doneToday = (task: Upkeep) => attempt(() => kit.saveUpkeep({ ...task, last_done: today.value }))
</script>

<template>
  <section class="upkeep" aria-label="Upkeep">
    <h2>Upkeep</h2>
    <div v-for="task in own" :key="task.id ?? 0" class="task">
      <span><b>{{ task.task }}</b>{{ task.note ? `, ${task.note}` : '' }}<br>
        <span class="quiet small">{{ isDue(task) ? 'Due.' : 'Not due.' }} Last {{ task.last_done ?? 'never noted' }}, every {{ task.every_days }} days</span>
      </span>
      <v-btn size="small" @click="doneToday(task)">Done today</v-btn>
      <v-btn size="small" variant="text" :aria-label="`Change ${task.task}`" @click="begin(task)">Change</v-btn>
    </div>
    <form v-if="editing" class="form" novalidate @submit.prevent="save">
      <FieldForm v-model="values" :fields="FIELDS" :refusal="refusal" />
      <div class="buttons">
        <v-btn type="submit" color="primary" variant="flat">Save task</v-btn>
        <v-btn v-if="editing.id" @click="attempt(() => kit.removeUpkeep(editing!))">Remove</v-btn>
        <v-btn variant="text" @click="editing = null">Cancel</v-btn>
      </div>
    </form>
    <button v-else type="button" class="link-button" @click="begin(null)">Add a task</button>
    <RefusalLine :refusal="refusal" :beside="editing ? FIELDS.map(field => field.key) : []" />
  </section>
</template>

<style scoped>
.upkeep { border-top: 1px solid var(--line); padding-top: 14px; display: grid; gap: 10px; }
.task { display: grid; grid-template-columns: 1fr auto auto; gap: 8px; align-items: center; }
.form { display: grid; gap: 16px; border: 1px solid var(--line); border-radius: 10px; padding: 14px; }
.buttons { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
