<script setup lang="ts">
import { ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'

/** What is printed on a telescope, typed as it stands there and said back while it is typed. */
type Label = Schema<'TelescopeLabel'>
const printed = defineModel<string>({ required: true })
defineProps<{ errorMessages?: string }>()
const emit = defineEmits<{ read: [label: Label] }>()
const label = ref<Label | null>(null)
const words = ref('')
const EXAMPLE = 'Two numbers in mm, such as 105/480 or D=105 F=480.'
watch(printed, async typed => {
  const found = typed.trim()
    ? await call<Label>(`/kit/label?printed=${encodeURIComponent(typed)}`, { isOnce: true }).catch(() => null) : null
  if (typed !== printed.value) return
  label.value = found
  words.value = found ? `Understood: ${found.words}.` : typed.trim() && EXAMPLE
}, { immediate: true })
</script>

<template>
  <div>
    <v-text-field v-model="printed" label="Printed on the telescope" placeholder="105/480" persistent-placeholder
      autocomplete="off" :error-messages="errorMessages" @blur="label && emit('read', label)" />
    <p class="small back" role="status">{{ words }}</p>
  </div>
</template>

<style scoped>
.back { min-height: max(21px, var(--least)); padding-top: 4px; }
</style>
