<script setup lang="ts">
import { useEvening } from '@/stores/evening'
import { clockTime } from './time'

/** That the Sun is up, where, until when, and the caution that goes with it. */
defineProps<{ altitudeDeg: number, azimuthDeg: number, untilUtc?: string | null, caution: string, zone: string }>()
const evening = useEvening()
</script>

<template>
  <p class="sun-frame">
    <b>The Sun is up</b>{{ evening.clockWords && ` by the ${evening.clockWords}` }},
    {{ altitudeDeg.toFixed(0) }}° high at azimuth {{ azimuthDeg.toFixed(0) }}°<template
      v-if="untilUtc">, and counts as up until {{ clockTime(untilUtc, zone) }}</template>.
    {{ caution }}<template v-if="evening.clockWords"> Says nothing of the Sun outside.</template>
  </p>
</template>
