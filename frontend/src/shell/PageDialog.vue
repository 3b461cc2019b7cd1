<script setup lang="ts">
import { useFocusPlace } from './focusPlace'
import { useEscape } from './useEscape'

/** Whatever lies over the page: closed by Escape, the keys begin on its first field and come back to where they were. */
defineOptions({ inheritAttrs: false })
const isOpen = defineModel<boolean>({ required: true })
useEscape(isOpen, () => { isOpen.value = false })
useFocusPlace(isOpen)
</script>

<template>
  <v-dialog v-model="isOpen" v-bind="$attrs"><slot /></v-dialog>
</template>
