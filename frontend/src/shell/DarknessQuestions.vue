<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useSums } from './sums'
import { useAsked, useAttempt } from './useAsked'

/** Milky Way, stars counted, glow: what each answer says is the server's to know. */
const props = defineProps<{ latitudeDeg?: string }>()
const emit = defineEmits<{ found: [darkSkyClass: number] }>()
const sums = useSums()
const { answer: questions, load } = useAsked(() => {
  const latitude = props.latitudeDeg?.trim()
  return call<Schema<'DarknessQuestions'>>(`/evening/darkness${latitude ? `?latitude_deg=${encodeURIComponent(latitude)}` : ''}`)
})
const given = ref<{ milky_way: string | null, figure: string, counted: number | null, glow: string | null }>({ milky_way: null, figure: 'little_bear', counted: null, glow: null })
const found = ref<Schema<'Darkness'> | null>(null)
const { refusal, attempt } = useAttempt()
const counts = computed(() => Array.from({ length: (questions.value?.most[given.value.figure] ?? 0) + 1 }, (_, n) => n))
watch(() => given.value.figure, () => { given.value.counted = null })
watch(given, async now => {
  if (now.milky_way === null && now.counted === null && now.glow === null) return
  const answer = await attempt(() => call<Schema<'Darkness'>>('/evening/darkness', { method: 'POST', json: now }))
  if (!answer) return
  found.value = answer
  emit('found', answer.dark_sky_class)
}, { deep: true })
onMounted(load)
watch(questions, now => { if (now) given.value.figure = now.usual_figure }, { once: true })
</script>

<template>
  <div v-if="questions" class="questions">
    <v-select v-model="given.milky_way" label="The Milky Way is" :items="questions.milky_way" item-title="title"
      item-value="value" />
    <v-select v-model="given.figure" label="Count" :items="questions.figures" item-title="title" item-value="value" />
    <v-select v-model="given.counted" label="Stars held steadily" :items="counts"
      :error-messages="refusal?.for('counted')" />
    <v-select v-model="given.glow" label="Glow of lamps" :items="questions.glow" item-title="title"
      item-value="value" />
    <p v-if="found" role="status"><button type="button" class="plain-button words"
      @click="sums.open = found.sum">{{ found.words }}</button></p>
  </div>
</template>

<style scoped>
.questions { display: grid; gap: 12px; border-left: 5px solid var(--line); padding-left: 12px; }
.words { font-weight: 700; text-decoration: underline dotted; text-underline-offset: 4px; min-height: 48px; }
</style>
