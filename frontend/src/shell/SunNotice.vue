<script setup lang="ts">
import { clockTime } from './time'

/** That the Sun is up, where, until when, and the caution that goes with it. */
defineProps<{ altitudeDeg: number, azimuthDeg: number, untilUtc?: string | null, caution: string, zone: string }>()
</script>

<template>
  <p class="sun-frame">
    <b>The Sun is up</b>, {{ altitudeDeg.toFixed(0) }}° high at azimuth {{ azimuthDeg.toFixed(0) }}°<template
      v-if="untilUtc">, until {{ clockTime(untilUtc, zone) }}</template>.
    {{ caution }}
  </p>
</template>
