<script setup lang="ts">
import type { Schema } from '@/api/client'
import { clockTime } from '@/shell/time'

defineProps<{ sun: Schema<'SunWatch'>, zone: string }>()
</script>

<template>
  <p v-if="sun.is_up" class="sun" role="alert">
    <b>The Sun is up</b>, {{ sun.altitude_deg.toFixed(0) }}° high at azimuth {{ sun.azimuth_deg.toFixed(0) }}°<template v-if="sun.up_until_utc">, until {{ clockTime(sun.up_until_utc, zone) }}</template>.
    {{ sun.words }}
  </p>
</template>

<style scoped>
.sun { border: 3px solid var(--sun); background: var(--sun-wash); border-radius: 10px; padding: 10px 14px; }
:root[data-regime='dark'] .sun {
  border: 8px solid transparent; background: linear-gradient(var(--ground), var(--ground)) padding-box,
    repeating-linear-gradient(45deg, #f00 0 8px, #000 8px 16px) border-box;
}
</style>
