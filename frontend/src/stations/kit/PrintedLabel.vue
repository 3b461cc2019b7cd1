<script setup lang="ts">
import { ref, watch } from 'vue'
import { call, type Schema } from '@/api/client'

/** What is printed on a telescope, typed as it stands there and said back while it is typed. */
type Label = Schema<'TelescopeLabel'>
const printed = defineModel<string>({ required: true })
defineProps<{ errorMessages?: string }>()
const emit = defineEmits<{ read: [label: Label] }>()
const words = ref('')
let asked: Promise<Label | null> = Promise.resolve(null)
const EXAMPLE = 'Two numbers in mm, such as 105/480 or D=105 F=480.'
async function ask (typed: string): Promise<Label | null> {
  const found = typed.trim()
    ? await call<Label>(`/kit/label?printed=${encodeURIComponent(typed)}`, { isOnce: true }).catch(() => null) : null
  if (typed === printed.value) words.value = found ? `Understood: ${found.words}.` : typed.trim() && EXAMPLE
  return found
}
watch(printed, typed => { asked = ask(typed) }, { immediate: true })
/** Only what was typed is taken, however late it is understood: fields put right by hand stay when the line is only passed. */
async function take () {
  const label = await asked
  if (label) emit('read', label)
}
</script>

<template>
  <div>
    <v-text-field v-model="printed" label="Printed on the telescope" placeholder="105/480" persistent-placeholder
      autocomplete="off" :error-messages="errorMessages" @change="take" />
    <p class="small back" role="status">{{ words }}</p>
  </div>
</template>

<style scoped>
.back { min-height: max(21px, var(--least)); padding-top: 4px; }
</style>
