<script setup lang="ts">
import { ref } from 'vue'
import { call, type Schema } from '@/api/client'
import RefusalLine from './RefusalLine.vue'
import { useAttempt } from './useAsked'

/** A picture of what was seen, by its name once it is kept; place and maker of the camera stay behind. */
const name = defineModel<string>({ required: true })
const { refusal, attempt, isBusy } = useAttempt()
const input = ref<HTMLInputElement | null>(null)
const HINTS = [
  'First push the phone nearer or farther until the round field fills the picture.',
  'Then left and right, then up and down, until no side is cut off: one axis at a time.',
  'Flash off. Hold the finger on the Moon until the focus is fixed, then pull the brightness down.',
  'Timer of two seconds, so that the touch has died away.',
]
async function take (event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const kept = await attempt(() => call<Schema<'KeptPicture'>>('/journal/pictures', { method: 'POST', picture: file }))
  if (kept) name.value = kept.name
  if (input.value) input.value.value = ''
}
</script>

<template>
  <div class="picture">
    <img v-if="name" :src="`/api/journal/pictures/${name}`" alt="The picture kept with this note">
    <div class="tools">
      <v-btn :loading="isBusy" @click="input?.click()">{{ name ? 'Another picture' : 'Add a picture' }}</v-btn>
      <v-btn v-if="name" variant="text" @click="name = ''">Leave it out</v-btn>
      <input ref="input" type="file" accept="image/jpeg,image/png,image/webp" class="sr-only" tabindex="-1"
        aria-label="Picture file" @change="take">
    </div>
    <RefusalLine :refusal="refusal" />
    <details><summary>With a phone at the eyepiece</summary>
      <ol class="small"><li v-for="one in HINTS" :key="one">{{ one }}</li></ol>
    </details>
  </div>
</template>

<style scoped>
.picture { display: grid; gap: 8px; }
img { width: 100%; border-radius: 8px; }
.tools { display: flex; gap: 8px; }
summary { cursor: pointer; min-height: 48px; display: flex; align-items: center; font-weight: 600; color: var(--jade); }
ol { margin: 0; padding-left: 22px; display: grid; gap: 4px; }
</style>
