<script setup lang="ts">
import { useNotices } from '@/shell/notices'
import { saveDrawing } from './exportDrawing'

const props = defineProps<{ host: HTMLElement | null, name: string }>()
const notices = useNotices()
async function save (kind: 'svg' | 'png') {
  // every drawing is a file of its own, two discs set beside each other are two
  const drawings = [...props.host?.querySelectorAll('svg') ?? []]
  for (const [n, svg] of drawings.entries()) {
    const name = n ? `${props.name}-${n + 1}` : props.name
    await saveDrawing(svg, name, kind).catch((error: Error) => notices.say(error.message))
  }
}
</script>

<template>
  <v-menu location="bottom end" role="region" aria-label="Save as a picture">
    <template #activator="{ props: bound }"><v-btn v-bind="bound" size="small" variant="text"
      :aria-label="`Save ${name} as a picture`">Save</v-btn></template>
    <v-list role="menu">
      <v-list-item role="menuitem" title="as SVG" @click="save('svg')" />
      <v-list-item role="menuitem" title="as PNG" @click="save('png')" />
    </v-list>
  </v-menu>
</template>
