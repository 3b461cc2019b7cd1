<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAttempt } from '@/shell/useAsked'
import FieldForm from '@/shell/FieldForm.vue'
import { asText, asTyped, type Field } from '@/shell/fields'
import type { Shown } from './instrument'

/** Set what the simulated instrument shows and what is wrong with it. */
const props = defineProps<{ kind: Shown['instrument'] }>()
type Settings = Schema<'InstrumentSettings'>
const isOpen = ref(false)
const { refusal, attempt } = useAttempt()
/** What it is set to, as typed; null until it is known: nobody types into what a late answer would put right. */
const values = ref<Record<string, unknown> | null>(null)
const FAULTS = [
  { title: 'nothing wrong', value: 'none' }, { title: 'it stops', value: 'stops' },
  { title: 'it jumps', value: 'jumps' }, { title: 'it sends rubbish', value: 'rubbish' },
]
const COMMON: Field[] = [
  { key: 'noise_deg', label: 'Noise', unit: '°', optional: true },
  { key: 'fault', label: 'Fault', options: FAULTS },
]
const FIELDS: Field[] = props.kind === 'level'
  ? [{ key: 'along_deg', label: 'Rise along its axis', unit: '°', optional: true }, { key: 'across_deg', label: 'Rise 90° clockwise of it', unit: '°', optional: true }, ...COMMON]
  : [{ key: 'bearing_deg', label: 'Magnetic bearing', unit: '°', optional: true }, { key: 'iron_deg', label: 'Iron adds', unit: '°', optional: true }, ...COMMON]
const path = `/setup/instruments/${props.kind}`
async function show (asked: Promise<Settings>) {
  const before = values.value
  const settings = await attempt(() => asked)
  if (settings && values.value === before) values.value = asText(FIELDS, settings)
}
const set = () => show(call<Settings>(path, { method: 'PUT', json: asTyped(FIELDS, values.value ?? {}) }))
onMounted(() => show(call<Settings>(path, { isOnce: true })))
</script>

<template>
  <div class="stand-in">
    <button type="button" class="link-button" :aria-expanded="isOpen"
      @click="isOpen = !isOpen">{{ isOpen ? 'Hide the stand-in' : 'Set the stand-in' }}</button>
    <p v-if="isOpen && !values && refusal" role="alert">{{ refusal.words }}</p>
    <form v-if="isOpen && values" class="form" novalidate @submit.prevent="set">
      <FieldForm v-model="values" :fields="FIELDS" :refusal="refusal" />
      <v-btn type="submit">Set it</v-btn>
    </form>
  </div>
</template>

<style scoped>
.form { display: grid; grid-template-columns: repeat(auto-fit, minmax(150px, 1fr)); gap: 12px; align-items: start; }
</style>
