<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useUnits, type Measure } from '@/stores/units'
import { readNumber, showNumber } from './quantity'

/** A number with its unit: takes a decimal comma, degrees and minutes, and a unit behind it; tells it in the unit it is kept in. */
const props = defineProps<{
  label: string
  unit: string
  measure?: Measure
  name?: string
  hint?: string
  errorMessages?: string
  readonly?: boolean
}>()
const kept = defineModel<string | number | undefined>({ required: true })
const units = useUnits()
const shownUnit = computed(() => units.shown(props.measure, props.unit))
const typed = ref('')
let told: string | null = null
function show () {
  typed.value = showNumber(String(kept.value ?? ''), props.unit, shownUnit.value)
}
watch([kept, shownUnit], () => { if (String(kept.value ?? '') !== told) show() }, { immediate: true })
function type (text: string) {
  typed.value = text
  told = readNumber(text, props.unit, shownUnit.value) ?? text
  kept.value = told
}
function leave () {
  told = null
  show()
}
</script>

<template>
  <v-text-field
    :model-value="typed" :label="label" :suffix="shownUnit" :name="name" inputmode="text" autocomplete="off"
    persistent-placeholder
    :error-messages="errorMessages" :hint="hint" :persistent-hint="!!hint" :readonly="readonly"
    @update:model-value="type" @blur="leave"
  />
</template>
