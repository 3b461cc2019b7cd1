<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import HeightView from '@/drawings/dials/HeightView.vue'
import { useStepValues } from '../drafts'
import { useEvening } from '@/stores/evening'
import { useUnits } from '@/stores/units'
import { useAttempt } from '@/shell/useAsked'
import FieldForm from '@/shell/FieldForm.vue'
import { asText, asTyped, type Field } from '@/shell/fields'
import { useMore } from '@/shell/useMore'
import AdvicePanel from '../AdvicePanel.vue'
import NumbersToggle from '../NumbersToggle.vue'
import StepHead from '../StepHead.vue'
import { useAdvice } from '../advice'
import type { Bench } from '@/stores/bench'

const props = defineProps<{ bench: Bench }>()
const evening = useEvening()
const units = useUnits()
const present = computed(() => evening.evening?.choice.people_ids ?? props.bench.people.map(one => one.id ?? 0))
const FIELDS: Field[] = [
  {
    key: 'ground', label: 'Where it stands', options: [
      { title: 'Grass', value: 'grass' }, { title: 'Bare soil', value: 'soil' }, { title: 'Gravel', value: 'gravel' },
      { title: 'Paving', value: 'paving' }, { title: 'A deck or balcony', value: 'deck' }, { title: 'Indoors, through a window', value: 'indoors' },
    ],
  },
  { key: 'lowest_altitude_deg', label: 'Look from', unit: '° up', optional: true, more: true },
  { key: 'highest_altitude_deg', label: 'up to', unit: '° up', optional: true, more: true },
  { key: 'pivot_height_mm', label: 'Pivot height', unit: 'mm', measure: 'hand', hint: 'Empty: chosen for you.', more: true },
]
const { values, settle } = useStepValues<Record<string, unknown>, Schema<'StandInput'>>(props, 'stand', () => ({
  ground: 'grass', lowest_altitude_deg: '20', highest_altitude_deg: String(Math.max(30, props.bench.highest_altitude_deg)), pivot_height_mm: '',
}), inputs => asText(FIELDS, inputs))
const { showsMore: showsNumbers, shown } = useMore(FIELDS, () => refusal.value)
const input = computed(() => ({ ...asTyped(FIELDS, values.value), people_ids: present.value }))
const { refusal: choiceRefusal, attempt } = useAttempt()
const { advice, refusal, record } = useAdvice<Schema<'StandAdvice'>>('stand', input, { recorded: settle })
function toggle (id: number) {
  const people_ids = present.value.includes(id) ? present.value.filter(one => one !== id) : [...present.value, id]
  void attempt(() => evening.choose({ people_ids }))
}
</script>

<template>
  <div class="bench-step">
    <section class="instrument" aria-label="Stand">
      <StepHead />
      <div v-if="bench.people.length" class="people" role="group" aria-label="Who is here">
        <button v-for="one in bench.people" :key="one.id ?? 0" type="button" class="person"
          :aria-pressed="present.includes(one.id ?? 0)" @click="toggle(one.id ?? 0)">{{ one.name }}</button>
      </div>
      <div class="drawing"><HeightView v-if="advice" :advice="advice"
        @pivot="values = { ...values, pivot_height_mm: String($event) }" /></div>
      <form class="fields" novalidate @submit.prevent><FieldForm v-model="values"
        :fields="shown" :refusal="refusal" /></form>
      <NumbersToggle v-model="showsNumbers" />
    </section>
    <AdvicePanel :advice="advice" :refusal="refusal ?? choiceRefusal" record="It stands" @record="record">
      <ul v-if="advice" class="list">
        <li v-for="one in advice.people" :key="one.name"><b>{{ one.name }}</b> {{ one.words }}.</li>
        <li v-for="words in advice.warnings" :key="words" class="warn">{{ words }}</li>
        <li v-if="advice.edge_mm !== null" class="quiet">Nearest tipping edge {{ units.height(advice.edge_mm) }}
          {{ units.heightUnit }} from the middle; it tips when it leans {{ advice.tipping_deg?.toFixed(0) }}°.</li>
        <li v-else class="quiet">Give the mount's foot circle in the kit to see when it tips.</li>
        <li v-if="bench.mount_is_assumed" class="warn">No mount is named for {{ bench.telescope.name }}: one pushed by
          hand is assumed. Name it in the kit.</li>
      </ul>
    </AdvicePanel>
  </div>
</template>

<style scoped>
.people { display: flex; gap: 8px; flex-wrap: wrap; flex: none; }
.person { font: inherit; color: inherit; background: var(--ground); border: 2px solid var(--edge); border-radius: 24px; min-height: 48px; padding: 0 16px; cursor: pointer; }
.person[aria-pressed='true'] { border-color: var(--jade); background: var(--jade-wash); font-weight: 700; }
.list { margin: 0; padding-left: 0; list-style: none; display: grid; gap: 8px; }
.warn { border-left: 5px solid var(--brass); padding-left: 10px; }
</style>
