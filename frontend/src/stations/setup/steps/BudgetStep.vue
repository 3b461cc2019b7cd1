<script setup lang="ts">
import { computed, onMounted, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import BudgetBars from '@/drawings/dials/BudgetBars.vue'
import { useRungs } from '@/stores/rungs'
import { useAsked } from '@/shell/useAsked'
import AdvicePanel from '../AdvicePanel.vue'
import StepHead from '../StepHead.vue'
import { useBench, type Bench } from '@/stores/bench'
import { unbroken } from '../unbroken'

defineProps<{ bench: Bench }>()
const rungs = useRungs()
const store = useBench()
const { answer: budget, refusal, load } = useAsked(
  () => call<Schema<'Budget'> | null>(`/setup/budget${rungs.selectedKey ? `?rung=${encodeURIComponent(rungs.selectedKey)}` : ''}`),
  ['setup', 'evening', 'kit', 'clock'],
)
const key = computed(() => rungs.selectedKey ?? budget.value?.rung_keys[0])
const number = computed(() => Math.max(0, budget.value?.rung_keys.indexOf(key.value ?? '') ?? 0))
const items = computed(() => (budget.value?.rung_labels ?? []).map((title, n) => ({ title, value: budget.value?.rung_keys[n] })))
const STEP_OF = { level: 'level', north: 'north', pole: 'north' } as const
onMounted(load)
watch(() => rungs.selectedKey, load)
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Minutes in the field">
      <StepHead />
      <template v-if="budget">
        <v-select class="rung" label="Through" :model-value="key" :items="items"
          @update:model-value="rungs.select($event)" />
        <BudgetBars :budget="budget" :number="number" />
      </template>
      <p v-else-if="!refusal" class="quiet">An eyepiece is needed: <router-link to="/kit">add one in the
        kit</router-link>.</p>
    </section>
    <AdvicePanel :advice="budget" :refusal="refusal" :record="budget ? 'Noted' : undefined"
      @record="store.giveWord('budget')">
      <ul v-if="budget?.gains.length" class="gains">
        <li v-for="gain in budget.gains" :key="gain.reading">
          <p>{{ unbroken(gain.words) }}</p>
          <button type="button" class="link-button"
            @click="store.goTo(STEP_OF[gain.reading])">
            {{ budget.readings[gain.reading]?.is_recorded ? 'Do it again' : 'Measure it' }}
          </button>
        </li>
      </ul>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.rung { flex: none; max-width: 280px; }
.gains { list-style: none; padding: 0; margin: 0; display: grid; gap: 6px; }
.gains li { border-left: 4px solid var(--line); padding-left: 10px; }
.gains li:first-child { border-left-color: var(--brass); }
.link-button { padding: 2px 0; min-height: max(36px, var(--least)); }
@media (max-width: 699px) { .link-button { min-height: 48px; } }
</style>
