<script setup lang="ts">
import { computed, nextTick, onMounted, useTemplateRef, watch } from 'vue'
import { go } from '@/router'
import type { Schema } from '@/api/client'
import SymptomPicture from '@/drawings/SymptomPicture.vue'
import { useBench, type StepName } from '@/stores/bench'
import { useEvening } from '@/stores/evening'
import { useSymptoms } from '@/stores/symptoms'
import SunNotice from './SunNotice.vue'

/** What is wrong? From a symptom by short questions to its cause; `path` are the keys gone through. */
const path = defineModel<string[]>({ required: true })
const emit = defineEmits<{ leave: [] }>()
const symptoms = useSymptoms()
const bench = useBench()
const evening = useEvening()
onMounted(symptoms.fetch)
const here = computed(() => path.value.at(-1))
const question = computed(() => symptoms.tree?.questions.find(one => one.key === here.value))
const cause = computed(() => symptoms.tree?.causes.find(one => one.key === here.value))
const symptom = computed(() => symptoms.tree?.symptoms.find(one => one.key === path.value[0]))
const begin = (one: Schema<'Symptom'>) => { path.value = [one.key, one.first] }
const back = () => { path.value = path.value.length > 2 ? path.value.slice(0, -1) : [] }
const sun = computed(() => evening.evening?.sun)
// the keys go on with the question
const head = useTemplateRef<HTMLElement>('head')
watch(here, async () => {
  await nextTick()
  head.value?.focus()
})
const CAUTION = 'Nothing is uncapped or pointed near it and no solar filter comes off, whatever the cause.'
const STATIONS = ['kit', 'powers', 'plan']
function mend (place: Schema<'Cause'>['place']) {
  if (STATIONS.includes(place)) go(`/${place}`)
  else {
    bench.goTo(place as StepName)
    go('/setup')
  }
  emit('leave')
}
function practise (drill: string) {
  go({ path: '/practice', query: { drill } })
  emit('leave')
}
</script>

<template>
  <div class="symptoms">
    <SunNotice v-if="sun?.is_up" :altitude-deg="sun.altitude_deg" :azimuth-deg="sun.azimuth_deg"
      :until-utc="sun.up_until_utc" :caution="CAUTION" :zone="evening.zone" />
    <p v-else-if="!sun" class="sun-frame"><b>By day:</b> where the Sun stands is not known here. {{ CAUTION }}</p>
    <p v-if="symptoms.refusal && !symptoms.tree" role="alert">{{ symptoms.refusal.words }}</p>
    <template v-if="question || cause">
      <p class="small quiet">{{ symptom?.words }}</p>
      <div class="now">
        <SymptomPicture :picture="(question ?? cause)!.picture" class="picture" />
        <h2 ref="head" tabindex="-1" class="words">{{ question?.words ?? cause?.cause }}</h2>
      </div>
      <div v-if="question" class="answers">
        <v-btn v-for="one in question.answers" :key="one.to" class="answer" @click="path = [...path, one.to]">
          {{ one.words }}</v-btn>
      </div>
      <template v-else-if="cause">
        <p class="cure">{{ cause.cure }}</p>
        <div class="answers">
          <v-btn color="primary" variant="flat" class="answer" @click="mend(cause.place)">
            {{ symptoms.tree?.places[cause.place] }}</v-btn>
          <v-btn v-if="cause.drill" class="answer" @click="practise(cause.drill)">Practise it</v-btn>
        </div>
      </template>
      <div class="ways">
        <v-btn variant="text" @click="back">Back</v-btn>
        <v-btn variant="text" @click="path = []">Something else</v-btn>
      </div>
    </template>
    <div v-else class="list">
      <button v-for="one in symptoms.tree?.symptoms" :key="one.key" type="button" class="symptom" @click="begin(one)">
        <SymptomPicture :picture="one.picture" class="small-picture" /><span>{{ one.words }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.symptoms { display: grid; gap: 14px; align-content: start; }
.now { display: grid; grid-template-columns: 130px minmax(0, 1fr); gap: 18px; align-items: center; }
.words { font-size: 26px; line-height: 1.25; font-weight: 800; } .words:focus { outline: none; }
.cure { font-size: 20px; line-height: 1.4; border-left: 6px solid var(--jade); padding-left: 12px; }
.answers { display: grid; gap: 10px; max-width: 32em; }
.answer { min-height: 56px !important; height: auto !important; white-space: normal; border: 1px solid var(--edge); font-size: 18px; padding: 8px 16px; }
.ways { display: flex; gap: 8px; }
.list { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(min(100%, 205px), 1fr)); }
.symptom { font: inherit; font-weight: 600; line-height: 1.25; color: var(--ink); background: var(--surface); border: 2px solid var(--edge); border-radius: 12px; padding: 8px 12px; cursor: pointer; display: grid; gap: 4px; justify-items: center; text-align: center; min-height: 112px; }
.symptom:hover { border-color: var(--jade); }
.small-picture { width: 62px; } .picture { width: 130px; }
@media (max-width: 699px) {
  .list { grid-template-columns: 1fr 1fr; } .now { grid-template-columns: 84px minmax(0, 1fr); gap: 12px; } .picture { width: 84px; }
  .words { font-size: 21px; } .cure { font-size: 18px; }
}
</style>
