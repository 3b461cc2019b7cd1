<script setup lang="ts">
import { useNotices } from '@/shell/notices'
import { saveDrawing } from './exportDrawing'

const props = defineProps<{ host: HTMLElement | null, name: string }>()
const notices = useNotices()
async function save (kind: 'svg' | 'png') {
  const svg = props.host?.querySelector('svg')
  if (!svg) return
  await saveDrawing(svg, props.name, kind).catch((error: Error) => notices.say(error.message))
}
</script>

<template>
  <v-menu location="bottom end">
    <template #activator="{ props: bound }"><v-btn v-bind="bound" size="small" variant="text"
      :aria-label="`Save ${name} as a picture`">Save</v-btn></template>
    <v-list>
      <v-list-item title="as SVG" @click="save('svg')" />
      <v-list-item title="as PNG" @click="save('png')" />
    </v-list>
  </v-menu>
</template>
