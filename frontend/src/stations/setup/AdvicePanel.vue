<script setup lang="ts">
import type { Refusal } from '@/api/client'
import { useSums } from '@/shell/sums'
import HonestMark from '@/shell/HonestMark.vue'
import type { AnyAdvice } from './advice'
import { useBench } from '@/stores/bench'
import { unbroken } from './unbroken'

defineProps<{
  advice: AnyAdvice | null
  refusal?: Refusal | null
  /** What recording is called here; nothing to record without it. */
  record?: string
  /** What making the turn is called, where the answer is a loop: the first thing to press. */
  turn?: string
  /** What to do before there is anything to advise on. */
  prompt?: string
  /** The Sun is in it. */
  hazard?: boolean
}>()
defineEmits<{ record: [], turn: [] }>()
const sums = useSums()
const bench = useBench()
</script>

<template>
  <aside class="advice scroll-y" aria-label="What to do now">
    <slot name="above" />
    <p v-if="refusal" role="alert"
      :class="refusal.isOfTheSun ? 'sun-frame hazard-words' : 'refusal'">{{ refusal.words }}</p>
    <template v-else-if="advice">
      <HonestMark v-if="advice.simulated" class="mark" :words="`simulated ${advice.simulated}`" />
      <p class="instruction" :class="{ good: advice.is_done, hazard }"
        role="status">{{ unbroken(advice.instruction) }}</p>
      <p v-if="advice.detail" class="detail">{{ unbroken(advice.detail) }}</p>
    </template>
    <p v-else-if="prompt" class="instruction">{{ prompt }}</p>
    <slot />
    <div class="buttons main">
      <v-btn v-if="turn && !refusal && advice && !advice.is_done" color="primary" variant="flat" size="large"
        @click="$emit('turn')">{{ turn }}</v-btn>
      <slot name="buttons" />
      <v-btn v-if="record && !refusal" :color="advice?.is_done ? 'primary' : undefined"
        :variant="advice?.is_done ? 'flat' : 'outlined'" size="large" :disabled="!advice"
        @click="$emit('record')">{{ advice?.simulated ? 'Record as practice' : record }}</v-btn>
    </div>
    <div class="buttons">
      <v-btn v-if="bench.next && !hazard" size="large" variant="outlined"
        @click="bench.goTo(bench.next.name)">Next: {{ bench.next.title }}</v-btn>
    </div>
    <div v-if="advice?.sums.length && !refusal" class="sums">
      <button v-for="sum in advice.sums" :key="sum.title" type="button" class="plain-button sum"
        @click="sums.open = sum">
        <span class="figures">{{ sum.result }}</span><span class="quiet small">{{ sum.title }}</span>
      </button>
    </div>
  </aside>
</template>

<style scoped>
.advice { padding: 18px 20px; display: flex; flex-direction: column; gap: 14px; border-left: 1px solid var(--line); min-height: 0; }
.instruction { font-size: 25px; font-weight: 700; line-height: 1.22; border-left: 6px solid var(--brass); padding-left: 14px; }
.instruction.good { border-left-color: var(--jade); }
.instruction.hazard { border-left: 8px solid var(--sun); }
.mark { justify-self: start; align-self: start; }
.refusal { background: var(--brass-wash); border-radius: 8px; padding: 12px 14px; }
.hazard-words { font-weight: 700; }
.buttons { display: grid; gap: 10px; }
.sums { display: grid; gap: 2px; border-top: 1px solid var(--line); padding-top: 10px; }
.sum { display: grid; padding: 6px 0; min-height: 48px; align-content: center; }
.sum .figures { text-decoration: underline dotted; text-underline-offset: 4px; }
.sum:hover .figures { color: var(--jade); }
@media (max-width: 1099px) { .advice { border-left: 0; border-top: 1px solid var(--line); overflow: visible; } }
/* On a phone the instruction stays on top while the instrument is under the finger. */
@media (max-width: 699px) {
  .advice { display: contents; }
  .advice > * { margin: 0 14px 14px; }
  .advice > :is(.instruction, .refusal, .hazard-words) {
    font-size: 20px; line-height: 1.22; order: -1; position: sticky; top: 0; z-index: 2; background: var(--ground); margin: 0; padding: 10px 14px; border-bottom: 1px solid var(--line);
    min-height: calc(3lh + 20px); /* room for three lines: the drawing under it stays where it is */
  }
  /* and what is pressed next stays at the thumb */
  .advice > .main { position: sticky; bottom: 0; z-index: 2; background: var(--ground); border-top: 1px solid var(--line); margin: 0; padding: 8px 14px; }
  .advice > .main:empty { display: none; }
}
</style>
