<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schema } from '@/api/client'
import SizeBesideMoon from '@/drawings/SizeBesideMoon.vue'
import NumberField from '@/shell/NumberField.vue'
import { readNumber } from '@/shell/quantity'
import { usePractice } from '@/stores/practice'

/** A target, a night and the case: start and top are chosen, three sums said, then the figures come. */
const props = defineProps<{ scene: Schema<'GlassScene'> }>()
const practice = usePractice()
const make = (kind: Schema<'GlassMove'>['kind'], values: { glass?: number, value?: number } = {}) =>
  practice.make({ drill: 'glass', kind, glass: 0, value: 0, ...values })
const isChoice = computed(() => props.scene.ask === 'start' || props.scene.ask === 'top')
const SUMS: Partial<Record<Schema<'GlassScene'>['ask'], [label: string, unit: string]>> = {
  power: ['Power', '×'], field: ['True field', '°'], pupil: ['Exit pupil', 'mm'],
}
const sum = computed(() => SUMS[props.scene.ask])
const typed = ref('')
watch(() => props.scene.ask, () => { typed.value = '' })
const value = computed(() => sum.value ? readNumber(typed.value, sum.value[1]) : null)
function say () { if (value.value !== null) make('say', { value: Number(value.value) }) }
</script>

<template>
  <div class="glass-room scroll-y">
    <p class="quiet">Target {{ scene.stage }} of {{ scene.stages }} · {{ scene.tube }}</p>
    <h2 class="target">{{ scene.target }}; {{ scene.night }}.</h2>
    <SizeBesideMoon v-if="!scene.shown.length" :size-arcmin="scene.size_arcmin" :moon-arcmin="scene.moon_arcmin"
      class="beside" />
    <div v-if="!scene.shown.length" class="glasses" role="group" aria-label="The glasses of the case">
      <button v-for="(name, n) in scene.names" :key="name" type="button" :disabled="!isChoice"
        :class="['glass', { on: !isChoice && n === scene.chosen }]" @click="make('choose', { glass: n })">
        {{ name }}</button>
    </div>
    <form v-if="sum" class="sum" novalidate @submit.prevent="say">
      <NumberField v-model="typed" :label="sum[0]" :unit="sum[1]" />
      <v-btn type="submit" color="primary" variant="flat" :disabled="value === null">Say it</v-btn>
    </form>
    <table v-if="scene.shown.length" class="ladder">
      <thead><tr><th>Glass</th><th>Power</th><th>Field</th><th>Exit pupil</th><th /></tr></thead>
      <tbody>
        <tr v-for="(one, n) in scene.shown" :key="one.name" :class="{ best: scene.tops.includes(n) }">
          <th>{{ one.name }}</th><td class="figures">{{ one.magnification.toFixed(0) }}×</td>
          <td class="figures">{{ one.true_field_deg.toFixed(2) }}°</td>
          <td class="figures">{{ one.exit_pupil_mm.toFixed(1) }} mm</td>
          <td>{{ n === scene.start ? 'start here' : '' }} {{ scene.tops.includes(n) ? 'end here' : '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="scene.why" class="quiet">{{ scene.why }}</p>
    <div class="row">
      <v-btn v-if="scene.ask === 'shown'" color="primary" variant="flat" @click="make('next')">Go on</v-btn>
      <v-btn v-else class="edged" @click="make('teach')">Show me how</v-btn>
    </div>
  </div>
</template>

<style scoped>
.glass-room { display: grid; grid-template-columns: minmax(0, 1fr); gap: 14px; align-content: start; }
@media (min-width: 700px) { .glass-room:has(.beside) { grid-template-columns: minmax(0, 1fr) minmax(220px, 400px); } .glass-room > * { grid-column: 1; } .glass-room > .beside { grid-column: 2; grid-row: 1 / span 6; width: 100%; } }
@media (max-width: 699px) { .beside { height: 92px; } .glass-room > .glasses { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; } .glasses > .glass { font-size: 16px; padding: 8px 6px; } }
.target { font-size: 26px; font-weight: 800; line-height: 1.2; } .target::first-letter { text-transform: uppercase; }
.glasses { display: flex; flex-wrap: wrap; gap: 10px; }
.glass { font: inherit; font-size: 18px; font-weight: 600; color: var(--ink); background: var(--surface); border: 2px solid var(--edge); border-radius: 999px; padding: 10px 20px; min-height: 56px; cursor: pointer; }
.glass:disabled { cursor: default; } .glass.on { border-color: var(--jade); box-shadow: inset 0 -5px 0 var(--jade); }
.sum { display: flex; gap: 12px; align-items: flex-start; max-width: 420px; }
.ladder { border-collapse: collapse; max-width: 640px; } .ladder th, .ladder td { text-align: start; padding: 5px 14px 5px 0; border-bottom: 1px solid var(--line); }
.best { font-weight: 700; } .edged { border: 1px solid var(--edge); }
</style>
