<script setup lang="ts">
import type { Refusal } from '@/api/client'
import { useZones } from '@/stores/zones'
import KindPicker from './KindPicker.vue'
import NumberField from './NumberField.vue'
import type { Field } from './fields'

defineProps<{ fields: readonly Field[], refusal: Refusal | null }>()
const values = defineModel<Record<string, unknown>>({ required: true })
const zones = useZones()
const text = (key: string) => (values.value[key] ?? null) as string | null
function set (key: string, value: unknown) {
  values.value = { ...values.value, [key]: value }
}
</script>

<template>
  <template v-for="field in fields" :key="field.key">
    <KindPicker
      v-if="field.kinds" :model-value="text(field.key)" :label="field.label"
      :family="field.kinds" :options="field.options ?? []" :error-messages="refusal?.for(field.key)"
      @update:model-value="set(field.key, $event)"
    />
    <v-autocomplete
      v-else-if="field.zones" :model-value="text(field.key)" :label="field.label" :items="zones.all"
      auto-select-first
      :error-messages="refusal?.for(field.key)" :hint="field.hint" :persistent-hint="!!field.hint"
      @update:model-value="set(field.key, $event)" @focus="zones.load()"
    />
    <v-select
      v-else-if="field.options" :model-value="values[field.key]" :label="field.label" :items="[...field.options]"
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
