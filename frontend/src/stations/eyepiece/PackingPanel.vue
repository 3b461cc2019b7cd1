<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useEyepiece } from '@/stores/eyepiece'
import { useKit } from '@/stores/kit'
import { useOutbox } from '@/stores/outbox'
import CaseWells from './CaseWells.vue'

/** Packing up: everything that was used, back where it belongs; then the evening is closed. */
const emit = defineEmits<{ back: [] }>()
const store = useEyepiece()
const kit = useKit()
const outbox = useOutbox()
const { answer: packing, refusal, load } = useAsked(() => call<Schema<'Packing'>>('/eyepiece/packing'), ['eyepiece', 'kit', 'journal', 'evening', 'clock'])
onMounted(() => Promise.all([load(), kit.load()]))
outbox.onAnswered(() => void load())
/** What was ticked here and not answered yet. */
const pending = computed(() => new Map(outbox.letters.flatMap(({ json }) =>
  json.what === 'pack' || json.what === 'unpack' ? [[`${String(json.date)} ${String(json.item)}`, json.what === 'pack'] as const] : [])))
const isDone = (item: Schema<'PackItem'>, date: string | undefined) => pending.value.get(`${date} ${item.key}`) ?? item.is_done
const today = computed(() => store.screen?.date)
const items = computed(() => (packing.value?.items ?? []).map(one => ({ ...one, is_done: isDone(one, today.value) })))
const left = computed(() => items.value.filter(one => !one.is_done).length)
const title = computed(() => {
  if (packing.value?.closed_at_utc) return 'The evening is closed'
  return left.value ? `Packing up: ${left.value} to go` : 'Everything is back'
})
const used = computed(() => items.value.filter(one => one.eyepiece_id).map(one => ({ id: one.eyepiece_id!, isBack: one.is_done })))
const toggle = (item: { key: string, is_done: boolean }) => store.press(item.is_done ? 'unpack' : 'pack', { item: item.key })
function settle (item: Schema<'PackItem'>) {
  const before = packing.value?.left
  if (before) store.press('pack', { item: item.key, date: before.date, site_id: before.site_id })
}
</script>

<template>
  <section v-if="packing" class="pack scroll-y" aria-label="Packing up">
    <header class="head">
      <h1>{{ title }}</h1>
      <p class="quiet">{{ packing.totals.words }}</p>
      <v-btn variant="text" @click="emit('back')">Back to the eyepiece</v-btn>
    </header>
    <div v-if="packing.left" class="open">
      <p><b>{{ packing.left.words }}</b></p>
      <v-btn v-for="one in packing.left.items" :key="one.key" size="small"
        @click="settle(one)">Done: {{ one.words }}</v-btn>
      <v-btn size="small" variant="text" @click="packing.left.items.forEach(settle)">All of it is settled</v-btn>
    </div>
    <div class="both">
      <ul class="list">
        <li v-for="item in items" :key="item.key">
          <button type="button" class="item plain-button" role="checkbox" :aria-checked="item.is_done"
            @click="toggle(item)">
            <span class="box" aria-hidden="true">{{ item.is_done ? '✓' : '' }}</span>
            <span><b>{{ item.words }}</b><br><span class="quiet small">{{ item.why }}</span></span>
          </button>
        </li>
      </ul>
      <div class="side">
        <CaseWells :eyepieces="kit.owned?.eyepiece ?? []" :used="used" />
        <section v-if="packing.due.length">
          <h2>Due for upkeep</h2>
          <p v-for="one in packing.due" :key="one.words" class="small">{{ one.words }}</p>
        </section>
        <p class="drive">{{ packing.drive_words }}</p>
        <v-btn v-if="!packing.closed_at_utc" color="primary" variant="flat" size="large"
          @click="store.press('close')">Close the evening</v-btn>
        <v-btn v-else variant="outlined" @click="store.press('reopen')">Open it again</v-btn>
      </div>
    </div>
  </section>
  <section v-else class="pack">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else indeterminate color="primary" aria-label="Laying out what was used" />
  </section>
</template>

<style scoped>
.pack { padding: 16px 28px; display: flex; flex-direction: column; gap: 14px; height: 100%; }
.head { display: flex; flex-wrap: wrap; gap: 4px 18px; align-items: center; } .head h1 { font-size: 28px; } .head p { flex: 1; }
.open { border-left: 6px solid var(--brass); padding-left: 12px; display: grid; gap: 8px; justify-items: start; }
.open :deep(.v-btn) { white-space: normal; height: auto !important; text-align: left; border: 1px solid var(--edge); }
.both { display: grid; grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr); gap: 28px; }
.list { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; align-content: start; }
.item { display: grid; grid-template-columns: 40px 1fr; gap: 12px; width: 100%; align-items: center; min-height: 56px; padding: 6px 8px; border-top: 1px solid var(--line); }
.box { width: 34px; height: 34px; border: 3px solid var(--ink); border-radius: 8px; display: grid; place-items: center; font-size: 24px; font-weight: 800; }
.item[aria-checked='true'] b { text-decoration: line-through; font-weight: 500; }
.side { display: grid; gap: 16px; align-content: start; }
.drive { border-left: 5px solid var(--line); padding-left: 12px; font-size: 17px; }
@media (max-width: 799px) { .head p { flex: 1 0 100%; order: 1; } .pack { padding: 10px 12px; } .both { grid-template-columns: minmax(0, 1fr); } }
</style>
