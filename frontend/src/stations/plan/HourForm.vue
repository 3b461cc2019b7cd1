<script setup lang="ts">
import { computed } from 'vue'
import ChangedMeanwhile from '@/shell/ChangedMeanwhile.vue'
import DraftLine from '@/shell/DraftLine.vue'
import FieldForm from '@/shell/FieldForm.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import type { Field } from '@/shell/fields'
import { clockTime } from '@/shell/time'
import { useItemForm } from '@/shell/useItemForm'
import { useEvening } from '@/stores/evening'
import { useUnits } from '@/stores/units'
import { typedOf, useWeather, type JudgedHour, type TypedValues } from '@/stores/weather'

/** One hour as somebody types it: what stays empty keeps what the file or the service says. */
const props = defineProps<{ judged: JudgedHour }>()
const emit = defineEmits<{ close: [] }>()
const evening = useEvening()
const weather = useWeather()
const units = useUnits()
const hour = computed(() => props.judged.hour)
const STEPS = [{ title: 'as it is', value: '' }, ...[1, 2, 3, 4, 5].map(n => ({ title: `${n} of 5`, value: n }))]
const said = (key: keyof TypedValues & keyof typeof hour.value, show: (value: number) => string) => {
  const value = hour.value[key]
  return hour.value.typed?.includes(key) || typeof value !== 'number' ? undefined : `Now ${show(value)}.`
}
const FIELDS = computed<Field[]>(() => [
  { key: 'cloud_percent', label: 'Cloud', unit: '%', hint: said('cloud_percent', value => `${value.toFixed(0)} %`) },
  { key: 'wind_m_s', label: 'Wind', unit: 'm/s', measure: 'wind', hint: said('wind_m_s', units.windWords) },
  { key: 'air_c', label: 'Air', unit: '°C', measure: 'air', hint: said('air_c', value => `${units.airWords(value)} ${units.airUnit}`) },
  { key: 'humidity_percent', label: 'Humidity', unit: '%', hint: said('humidity_percent', value => `${value.toFixed(0)} %`) },
  { key: 'steadiness', label: 'Steadiness', options: STEPS, hint: said('steadiness', value => `${value} of 5`) },
  { key: 'transparency', label: 'Clear air', options: STEPS, hint: said('transparency', value => `${value} of 5`) },
])
interface Typed extends TypedValues { id?: number | null }
const form = useItemForm<Typed>({
  of: () => `weather.${evening.evening?.site?.id}.${hour.value.hour_utc}`,
  isOne: true,
  fields: FIELDS,
  item: () => hour.value.typed_id ? { ...typedOf(hour.value), id: hour.value.typed_id, version: hour.value.typed_version } : null,
  fresh: () => ({ steadiness: '', transparency: '' }),
  shown: item => ({
    ...Object.fromEntries(FIELDS.value.map(({ key }) => [key, item[key as keyof TypedValues] ?? ''])),
  }),
  store: async (_, item) => {
    await weather.type(hour.value.hour_utc, item as TypedValues)
    return item as Typed
  },
})
const { values, isDraft, refusal, isSaving, differences } = form
async function save (saving: Promise<Typed | undefined>) {
  if (await saving) emit('close')
}
</script>

<template>
  <form class="hour" novalidate @submit.prevent="save(form.save())">
    <h2>{{ clockTime(hour.hour_utc, evening.zone) }}, as you see it</h2>
    <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
    <FieldForm v-model="values" :fields="FIELDS" :refusal="refusal" />
    <ChangedMeanwhile :differences="differences" @mine="save(form.keepMine())" @theirs="form.takeTheirs()" />
    <RefusalLine v-if="!differences.length" :refusal="refusal" :beside="FIELDS.map(field => field.key)" />
    <div class="tools">
      <v-btn type="submit" color="primary" variant="flat" :loading="isSaving">Keep this hour</v-btn>
      <v-btn v-if="hour.typed?.length" variant="text" @click="weather.takeBack(hour)">Forget what was typed</v-btn>
      <v-btn variant="text" @click="$emit('close')">Close</v-btn>
    </div>
  </form>
</template>

<style scoped>
.hour { display: grid; gap: 10px; padding-bottom: 12px; border-bottom: 1px solid var(--line); }
.tools { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
