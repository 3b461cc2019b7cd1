<script setup lang="ts">
import type { Schema } from '@/api/client'
import { clockTime } from '@/shell/time'

defineProps<{ sun: Schema<'SunWatch'>, zone: string }>()
</script>

<template>
  <p v-if="sun.is_up" class="sun-frame" role="alert">
    <b>The Sun is up</b>, {{ sun.altitude_deg.toFixed(0) }}° high at azimuth {{ sun.azimuth_deg.toFixed(0) }}°<template v-if="sun.up_until_utc">, until {{ clockTime(sun.up_until_utc, zone) }}</template>.
    {{ sun.words }}
  </p>
</template>
