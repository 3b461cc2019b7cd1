<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { computed, ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { textOf, useDraft } from '@/shell/drafts'
import NumberField from '@/shell/NumberField.vue'
import { useAttempt } from '@/shell/useAsked'
import RefusalLine from '@/shell/RefusalLine.vue'
import { useEvening } from '@/stores/evening'
import { useKit } from '@/stores/kit'

const isOpen = defineModel<boolean>({ required: true })
const kit = useKit()
const evening = useEvening()
const claim = ref<'eyepiece' | 'largest' | 'amplifier'>('eyepiece')
const chosenId = ref<number | null>(null)
const { values: typed } = useDraft('label', () => ({ printed: '', focalLength: '', factor: '1' }))
const [printed, focalLength, factor] = [textOf(typed, 'printed'), textOf(typed, 'focalLength'), textOf(typed, 'factor')]
const audit = ref<Schema<'Audit'> | null>(null)
const { refusal, attempt } = useAttempt()
const CLAIMS = [
  { value: 'eyepiece', title: 'a power for an eyepiece' },
  { value: 'largest', title: 'a largest power' },
  { value: 'amplifier', title: 'the × of a Barlow' },
]
const telescopes = computed(() => kit.owned?.telescope ?? [])
// tonight's until another is chosen, however late it is known
const telescopeId = computed({
  get: () => chosenId.value ?? evening.evening?.telescope?.id ?? null,
  set: id => { chosenId.value = id },
})
watch(isOpen, () => {
  chosenId.value = null
  audit.value = null
  refusal.value = null
})
async function check () {
  const query = new URLSearchParams({ printed: printed.value })
  if (telescopeId.value !== null) query.set('telescope_id', String(telescopeId.value))
  if (claim.value === 'eyepiece') {
    query.set('focal_length_mm', focalLength.value)
    query.set('factor', factor.value)
  }
  audit.value = await attempt(() => call<Schema<'Audit'>>(`/powers/audit/${claim.value}?${query}`, { isOnce: true })) ?? null
}
</script>

<template>
  <PageDialog v-model="isOpen" max-width="620" scrollable aria-label="Check a label">
    <v-card class="check">
      <h1>Is the label true?</h1>
      <form class="form" novalidate @submit.prevent="check">
        <v-select v-model="claim" label="The box or barrel prints" :items="CLAIMS" @update:model-value="audit = null" />
        <v-select v-model="telescopeId" label="In this telescope" :items="telescopes" item-title="name"
          item-value="id" :error-messages="refusal?.for('telescope_id')" />
        <NumberField v-model="printed" label="The printed number" unit="×"
          :error-messages="refusal?.for('printed')" />
        <template v-if="claim === 'eyepiece'">
          <NumberField v-model="focalLength" label="Eyepiece" unit="mm"
            :error-messages="refusal?.for('focal_length_mm')" />
          <NumberField v-model="factor" label="With a Barlow of" unit="×" hint="1 without"
            :error-messages="refusal?.for('factor')" />
        </template>
        <v-btn type="submit" color="primary" variant="flat">Check it</v-btn>
      </form>
      <RefusalLine :refusal="refusal" />
      <section v-if="audit" class="verdict" role="status">
        <p class="says"><s v-if="!audit.holds" class="figures">{{ audit.printed }}×</s><b v-else
          class="figures">{{ audit.printed }}×</b>{{ ' ' }}{{ audit.verdict }}</p>
        <dl>
          <dt>The sum</dt><dd class="figures">{{ audit.exact_sum }}</dd>
          <dt>In your head</dt><dd>{{ audit.mental_sum }}</dd>
          <dt>To be true</dt><dd>{{ audit.would_need }}</dd>
        </dl>
      </section>
      <v-btn variant="text" @click="isOpen = false">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.check { padding: 24px; display: grid; gap: 16px; }
.form { display: grid; grid-template-columns: 1fr 1fr; gap: 14px; }
.form .v-btn { grid-column: 1 / -1; }
.verdict { border: 1px solid var(--line); border-radius: 10px; padding: 14px; display: grid; gap: 10px; }
.says { font-size: 18px; }
dl { display: grid; grid-template-columns: 104px 1fr; gap: 8px; margin: 0; }
dt { color: var(--ink-quiet); } dd { margin: 0; }
@media (max-width: 699px) { .form { grid-template-columns: 1fr; } }
</style>
