<script setup lang="ts">
/** What can be done with the whole kit. */
defineProps<{ activator: HTMLElement | null }>()
defineEmits<{ fit: [], label: [], import: [] }>()
const isOpen = defineModel<boolean>({ required: true })
</script>

<template>
  <v-menu v-model="isOpen" :activator="activator ?? undefined" :open-on-click="false" location="bottom end"
    role="region" aria-label="More of the kit">
    <v-list role="menu">
      <v-list-item role="menuitem" title="What fits into what" @click="$emit('fit')" />
      <v-list-item role="menuitem" title="Check a label" @click="$emit('label')" />
      <v-list-item role="menuitem" title="Import a file …" @click="$emit('import')" />
      <v-list-item role="menuitem" title="Export as CSV" href="/api/kit/export.csv" download />
      <v-list-item role="menuitem" title="Export as JSON" href="/api/kit/export.json" download />
    </v-list>
  </v-menu>
</template>
