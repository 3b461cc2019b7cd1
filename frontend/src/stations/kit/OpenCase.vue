<script setup lang="ts">
import type { Amplifier, Eyepiece } from '@/api/items'

defineProps<{ eyepieces: readonly Eyepiece[], amplifiers: readonly Amplifier[] }>()
defineEmits<{ openEyepiece: [one: Eyepiece], openAmplifier: [one: Amplifier], addEyepiece: [], addAmplifier: [] }>()
const SIZE_PX = { '0.965': 58, '1.25': 72, '2': 92 }
const sizeOf = (barrel: keyof typeof SIZE_PX = '1.25') => ({ width: `${SIZE_PX[barrel]}px`, height: `${SIZE_PX[barrel]}px` })
</script>

<template>
  <div class="case">
    <section class="wells" aria-label="Eyepieces">
      <h2>Eyepieces</h2>
      <div class="row">
        <button v-for="one in eyepieces" :key="one.id ?? one.name" type="button" class="well plain-button"
          @click="$emit('openEyepiece', one)">
          <span class="glass"
            :style="sizeOf(one.barrel_in)">
            <span class="figures">{{ one.focal_length_mm }}</span><span class="mm">mm</span>
          </span>
          <span class="name">{{ one.name }}</span>
          <span class="quiet small">{{ one.apparent_field_deg ?? '?' }}° · {{ one.barrel_in }} in</span>
        </button>
        <button type="button" class="well plain-button" @click="$emit('addEyepiece')">
          <span class="glass empty" style="width: 72px; height: 72px">+</span>
          <span class="name">Add eyepiece</span>
          <span class="small">&nbsp;</span>
        </button>
      </div>
    </section>
    <section class="wells" aria-label="Amplifiers">
      <h2>Amplifiers</h2>
      <div class="row">
        <button v-for="one in amplifiers" :key="one.id ?? one.name" type="button" class="well plain-button"
          @click="$emit('openAmplifier', one)">
          <span class="glass square"><span class="figures">{{ one.factor }}</span><span class="mm">×</span></span>
          <span class="name">{{ one.name }}</span>
          <span class="quiet small">{{ one.kind === 'barlow' ? 'Barlow' : 'telecentric' }} · {{ one.barrel_in }}
            in</span>
        </button>
        <button type="button" class="well plain-button" @click="$emit('addAmplifier')">
          <span class="glass square empty">+</span>
          <span class="name">Add amplifier</span>
          <span class="small">&nbsp;</span>
        </button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.case { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 16px 40px; background: var(--surface); border: 1px solid var(--line); border-radius: 16px; padding: 12px 20px; }
.row { display: flex; flex-wrap: wrap; gap: 14px 10px; align-items: end; padding-top: 6px; }
.well { display: grid; justify-items: center; gap: 2px; min-width: 96px; border-radius: 10px; padding: 6px; }
.well:hover .glass { border-color: var(--jade); }
.glass { border-radius: 50%; border: 3px solid var(--ink); display: flex; align-items: center; justify-content: center; font-size: 20px; font-weight: 600; background: var(--ground); gap: 1px; margin-bottom: 4px; }
.glass .mm { font-size: 12px; font-weight: 400; padding-top: 6px; }
.square { border-radius: 14px; width: 72px; height: 72px; }
.empty { border-style: dashed; border-color: var(--ink-quiet); color: var(--ink-quiet); background: transparent; }
.name { font-weight: 600; }
@media (max-width: 899px) { .case { grid-template-columns: 1fr; padding: 14px; } }
</style>
