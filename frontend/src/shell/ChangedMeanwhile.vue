<script setup lang="ts">
import { useTemplateRef, watch } from 'vue'
import type { Difference } from './useItemForm'

/** Somebody else stored another change first: both stand side by side, and one is chosen. */
const { differences } = defineProps<{ differences: readonly Difference[] }>()
defineEmits<{ mine: [], theirs: [] }>()
const panel = useTemplateRef('panel')
/** A long form may be scrolled elsewhere: the question comes to the eye and to the keys. */
watch(() => differences.length > 0, isAsked => {
  if (!isAsked) return
  panel.value?.scrollIntoView({ block: 'center' })
  panel.value?.focus()
}, { flush: 'post', immediate: true })
</script>

<template>
  <section v-if="differences.length" ref="panel" class="meanwhile" role="alert" aria-label="Changed meanwhile"
    tabindex="-1">
    <p><b>Changed meanwhile</b>, perhaps in another window. Keep one of the two.</p>
    <table>
      <thead><tr><th><span class="sr-only">Field</span></th><th>Yours</th><th>Stored</th></tr></thead>
      <tbody>
        <tr v-for="one in differences"
          :key="one.key"><td>{{ one.label }}</td><td>{{ one.mine }}</td><td>{{ one.theirs }}</td></tr>
      </tbody>
    </table>
    <div class="buttons">
      <v-btn color="primary" variant="flat" @click="$emit('mine')">Keep mine</v-btn>
      <v-btn @click="$emit('theirs')">Take what is stored</v-btn>
    </div>
  </section>
</template>

<style scoped>
.meanwhile { background: var(--brass-wash); border-left: 6px solid var(--brass); border-radius: 8px; padding: 12px 14px; display: grid; gap: 10px; }
table { border-collapse: collapse; width: 100%; font-size: 15px; }
th, td { text-align: left; padding: 6px 8px 6px 0; vertical-align: top; overflow-wrap: anywhere; }
.buttons { display: flex; gap: 8px; flex-wrap: wrap; }
</style>
