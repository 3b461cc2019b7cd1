<script setup lang="ts">
import { computed, shallowRef } from 'vue'
import { upkeeps, type Upkeep } from '@/api/items'
import ChangedMeanwhile from '@/shell/ChangedMeanwhile.vue'
import DraftLine from '@/shell/DraftLine.vue'
import FieldForm from '@/shell/FieldForm.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import type { Field } from '@/shell/fields'
import { useAttempt } from '@/shell/useAsked'
import { useItemForm } from '@/shell/useItemForm'
import { useEvening } from '@/stores/evening'
import { localStamp } from '@/shell/time'
import type { KindName } from './kitFields'
import { useKit } from '@/stores/kit'

const props = defineProps<{ kind: KindName, itemId: number }>()
const kit = useKit()
const evening = useEvening()
const editing = shallowRef<{ task: Upkeep | null } | null>(null)
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
  { key: 'every_uses', label: 'Or after', unit: 'evenings of use', hint: 'Empty where only time counts.' },
]
const own = computed(() => kit.allUpkeep.filter(one => one.item_kind === props.kind && one.item_id === props.itemId))
const isDue = (task: Upkeep) => kit.due.some(due => due.upkeep.id === task.id)
const today = computed(() => localStamp(evening.evening?.now_utc ?? new Date().toISOString(), evening.zone).slice(0, 10))

const form = useItemForm<Upkeep>({
  of: () => editing.value && `upkeep.${props.kind}.${props.itemId}`,
  fields: FIELDS,
  item: () => editing.value?.task ?? null,
  fresh: () => ({ task: 'battery', note: '', last_done: '', every_days: '180', every_uses: '' }),
  besides: () => ({ item_kind: props.kind, item_id: props.itemId }),
  store: upkeeps.save,
})
const { values, isDraft, refusal, differences } = form
const other = useAttempt()
async function closeWith (saving: Promise<Upkeep | undefined>) {
  if (await saving) editing.value = null
}
async function remove (task: Upkeep) {
  await other.once(() => kit.removeUpkeep(task))
  if (other.refusal.value) return
  form.forget()
  editing.value = null
}
const doneToday = (task: Upkeep) => other.once(() => upkeeps.change(task.id ?? 0, { ...task, last_done: today.value }), task.id)
</script>

<template>
  <section class="upkeep" aria-label="Upkeep">
    <h2>Upkeep</h2>
    <div v-for="task in own" :key="task.id ?? 0" class="task">
      <span><b>{{ task.task }}</b>{{ task.note ? `, ${task.note}` : '' }}<br>
        <span class="quiet small">{{ isDue(task) ? 'Due.' : 'Not due.' }} Last {{ task.last_done ?? 'never noted' }},
          every {{ task.every_days }} days{{ task.every_uses ? ` or ${task.every_uses} evenings of use` : '' }}</span>
      </span>
      <v-btn size="small" @click="doneToday(task)">Done today</v-btn>
      <v-btn size="small" variant="text" :aria-label="`Change ${task.task}`" @click="editing = { task }">Change</v-btn>
    </div>
    <form v-if="editing" class="form" novalidate @submit.prevent="closeWith(form.save())">
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <FieldForm v-model="values" :fields="FIELDS" :refusal="refusal" />
      <ChangedMeanwhile :differences="differences" @mine="closeWith(form.keepMine())" @theirs="form.takeTheirs()" />
      <div class="buttons">
        <v-btn type="submit" color="primary" variant="flat">Save task</v-btn>
        <v-btn v-if="editing.task" @click="remove(editing.task)">Remove</v-btn>
        <v-btn variant="text" @click="form.startOver(); editing = null">Cancel</v-btn>
      </div>
    </form>
    <button v-else type="button" class="link-button" @click="editing = { task: null }">Add a task</button>
    <RefusalLine v-if="!differences.length" :refusal="refusal ?? other.refusal.value"
      :beside="editing ? FIELDS.map(field => field.key) : []" />
  </section>
</template>

<style scoped>
.upkeep { border-top: 1px solid var(--line); padding-top: 14px; display: grid; gap: 10px; }
.task { display: grid; grid-template-columns: 1fr auto auto; gap: 8px; align-items: center; }
.form { display: grid; gap: 16px; border: 1px solid var(--line); border-radius: 10px; padding: 14px; }
.buttons { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
