<script setup lang="ts">
import { computed, watch } from 'vue'
import { textOf, useDraft } from '@/shell/drafts'
import NumberField from '@/shell/NumberField.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { useAttempt } from '@/shell/useAsked'
import { useEvening, type EveningChoice } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'

/** Tonight's air in five plain steps each, and the faintest star seen. */
const isOpen = defineModel<boolean>({ required: true })
const store = useEyepiece()
const evening = useEvening()
const { refusal, attempt, isBusy } = useAttempt()
const air = computed(() => store.screen?.air)
const judged = computed(() => {
  const one = air.value
  return one
    ? [
        { key: 'steadiness', title: 'How steady? Look at a star at high power.', steps: one.steady_steps, chosen: one.steadiness },
        { key: 'transparency', title: 'How clear? Look at the sky, then into the field.', steps: one.clear_steps, chosen: one.transparency },
      ]
    : []
})
const { values, settle, follow } = useDraft(
  () => `air.${evening.evening?.night?.date}`, () => ({ faintest: String(air.value?.faintest_seen_mag ?? '') }),
)
watch(() => air.value?.faintest_seen_mag, follow)
const faintest = textOf(values, 'faintest')
const say = (change: Partial<EveningChoice>) => attempt(() => evening.choose(change))
async function sayFaintest () {
  await say({ faintest_seen_mag: (faintest.value.trim() === '' ? null : faintest.value) as number | null })
  if (!refusal.value) settle()
}
</script>

<template>
  <SideSheet v-model="isOpen" title="Air and sky">
    <template v-if="air">
      <fieldset v-for="{ key, title, steps, chosen } in judged" :key="key" class="steps">
        <legend>{{ title }}</legend>
        <button v-for="one in steps" :key="one.step" type="button" class="choice plain-button"
          :aria-pressed="chosen === one.step" @click="say({ [key]: chosen === one.step ? null : one.step })">
          <b>{{ one.step }} {{ one.word }}</b><span class="quiet small effect">{{ one.effect }}</span>
          <span class="small look">{{ one.look }}</span>
        </button>
      </fieldset>
      <form class="faint" @submit.prevent="sayFaintest">
        <NumberField v-model="faintest" label="Faintest star seen overhead" unit="mag"
          hint="By eye alone, held steadily. Leave it empty to take the place's own darkness."
          :error-messages="refusal?.for('faintest_seen_mag')" />
        <v-btn type="submit" :loading="isBusy">Take it</v-btn>
        <p v-if="air.sky_words" class="small" role="status">{{ air.sky_words }}</p>
      </form>
      <RefusalLine :refusal="refusal" :beside="['faintest_seen_mag']" />
    </template>
  </SideSheet>
</template>

<style scoped>
.steps { border: 0; padding: 0; margin: 0; display: grid; gap: 6px; } .steps legend { font-weight: 700; padding-bottom: 8px; }
.choice { display: grid; grid-template-columns: 1fr auto; gap: 0 10px; border: 1px solid var(--edge); border-radius: 10px; padding: 8px 12px; min-height: 48px; }
.choice[aria-pressed='true'] { border: 3px solid var(--jade); background: var(--jade-wash); padding: 6px 10px; }
.look { grid-column: 1 / -1; }
.faint { display: grid; gap: 8px; }
</style>
