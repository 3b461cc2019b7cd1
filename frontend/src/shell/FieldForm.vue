<script setup lang="ts">
import type { Refusal } from '@/api/client'
import NumberField from './NumberField.vue'
import type { Field } from './fields'

defineProps<{ fields: readonly Field[], refusal: Refusal | null }>()
const values = defineModel<Record<string, unknown>>({ required: true })
function set (key: string, value: unknown) {
  values.value = { ...values.value, [key]: value }
}
</script>

<template>
  <template v-for="field in fields" :key="field.key">
    <v-select
      v-if="field.options" :model-value="values[field.key]" :label="field.label" :items="[...field.options]"
      :error-messages="refusal?.for(field.key)" :hint="field.hint" :persistent-hint="!!field.hint"
      @update:model-value="set(field.key, $event)"
    />
    <v-switch
      v-else-if="field.flag" :model-value="values[field.key]" :label="field.label" color="primary"
      @update:model-value="set(field.key, $event)"
    />
    <NumberField
      v-else-if="field.unit" :model-value="values[field.key] as string" :label="field.label" :unit="field.unit"
      :measure="field.measure"
      :name="field.key" :error-messages="refusal?.for(field.key)" :hint="field.hint"
      @update:model-value="set(field.key, $event)"
    />
    <v-text-field
      v-else :model-value="values[field.key] as string" :label="field.label" :name="field.key"
      :error-messages="refusal?.for(field.key)"
      :hint="field.hint" :persistent-hint="!!field.hint" autocomplete="off" @update:model-value="set(field.key, $event)"
    />
  </template>
</template>
