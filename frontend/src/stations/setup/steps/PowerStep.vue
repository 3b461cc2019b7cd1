<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useStepValues } from '../drafts'
import AdvicePanel from '../AdvicePanel.vue'
import StepHead from '../StepHead.vue'
import type { AnyAdvice } from '../advice'
import { useBench, type Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
const store = useBench()
const { answer: board, refusal, load } = useAsked(() => call<Schema<'NorthBoard'>>('/setup/north'), ['evening', 'kit'])
onMounted(load)
const waits = computed(() => store.bench?.steps.filter(one => store.step?.waits_for?.includes(one.name)) ?? [])
const order = computed(() => board.value?.order ?? [])
/** What was ticked, in its own words; null is all of it, as it was recorded. */
const { part, settle } = useStepValues<{ ticked: string[] | null }>(props, 'power', () => ({ ticked: [] }), () => ({ ticked: null }))
const kept = part('ticked')
const done = computed({ get: () => kept.value ?? order.value, set: words => { kept.value = words } })
const record = async () => await store.giveWord('power') && settle()
const nextNumber = computed(() => order.value.findIndex(words => !done.value.includes(words)))
const advice = computed<AnyAdvice | null>(() => board.value && ({
  instruction: nextNumber.value < 0 ? 'Powered and following.' : order.value[nextNumber.value] ?? '', detail: '', is_done: nextNumber.value < 0, sums: [],
  simulated: store.step?.built_on_simulated ?? '',
}))
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Power on">
      <StepHead />
      <ol class="order">
        <li v-for="(words, n) in order" :key="words">
          <label class="line"><input v-model="done" type="checkbox" :value="words"><b
            class="figures">{{ n + 1 }}</b><span>{{ words }}</span></label>
        </li>
      </ol>
      <!-- below what is ticked: it goes while somebody ticks, and nothing moves under a finger -->
      <p v-if="waits.length" class="waits">First {{ waits.map(one => one.title.toLowerCase()).join(' and ') }}: power
        comes after.</p>
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal"
      :record="nextNumber < 0 && !waits.length ? 'It follows' : undefined"
      @record="record" />
  </div>
</template>

<style scoped>
.waits { border-left: 5px solid var(--brass); padding-left: 12px; }
.order { list-style: none; padding: 0; margin: 0; max-width: 620px; }
.line { display: grid; grid-template-columns: 44px 30px 1fr; align-items: center; min-height: 56px; font-size: 18px; border-bottom: 1px solid var(--line); cursor: pointer; }
.line input { width: 26px; height: 26px; accent-color: var(--jade); }
</style>
