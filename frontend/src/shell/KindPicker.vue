<script setup lang="ts">
import KindPicture from '@/drawings/kinds/KindPicture.vue'

/** A kind chosen from drawings: one of a group, by touch or arrow keys. */
defineProps<{
  label: string
  family: 'mount' | 'finder' | 'telescope'
  options: readonly { title: string, value: string | number }[]
  errorMessages?: string
}>()
const chosen = defineModel<string | null>({ required: true })
const group = `kind-${Math.random().toString(36).slice(2, 8)}`
</script>

<template>
  <fieldset class="kinds">
    <legend>{{ label }}</legend>
    <div class="row">
      <label v-for="one in options" :key="one.value" class="kind" :class="{ on: chosen === one.value }">
        <input v-model="chosen" type="radio" :name="group" :value="one.value" class="sr-only">
        <KindPicture :family="family" :kind="String(one.value)" />
        <span>{{ one.title }}</span>
      </label>
    </div>
    <p v-if="errorMessages" role="alert" class="small wrong">{{ errorMessages }}</p>
  </fieldset>
</template>

<style scoped>
.kinds { border: 0; margin: 0; padding: 0; min-width: 0; }
legend { font-weight: 700; padding-bottom: 6px; }
.row { display: grid; grid-template-columns: repeat(auto-fill, minmax(112px, 1fr)); gap: 8px; }
.kind { position: relative; display: grid; justify-items: center; align-content: start; gap: 4px; text-align: center; padding: 8px 6px; border: 2px solid var(--edge); border-radius: 10px; cursor: pointer; font-size: 14px; line-height: 1.15; background: var(--ground); }
.kind.on { border-color: var(--jade); background: var(--jade-wash); font-weight: 700; box-shadow: inset 0 -4px 0 var(--jade); }
.kind:focus-within { outline: 3px solid var(--jade); outline-offset: 2px; }
.wrong { color: rgb(var(--v-theme-error)); padding-top: 4px; }
</style>
