<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import { useEvening } from '@/stores/evening'
import { moonWords } from '@/shell/eveningWords'
import { clockTime } from '@/shell/time'

const props = defineProps<{ night: Schema<'Night'>, zone: string }>()
const store = useEvening()
const NAMES = { civil: 'sunset', nautical: 'civil twilight ends', astronomical: 'nautical ends', dark: 'dark' } as const
const at = (utc: string | null | undefined) => clockTime(utc, props.zone)

/** The steps from day to dark, each at the moment its light begins. */
const dusk = computed(() => props.night.lights
  .filter((span, n) => n > 0 && span.light !== 'day' && lighter(props.night.lights[n - 1]!.light, span.light))
  .map(span => `${NAMES[span.light as keyof typeof NAMES]} ${at(span.start_utc)}`))
const ORDER = ['day', 'civil', 'nautical', 'astronomical', 'dark']
function lighter (before: string, after: string) {
  return ORDER.indexOf(before) < ORDER.indexOf(after)
}
const dawn = computed(() => props.night.sunrise_utc ? [`sunrise ${at(props.night.sunrise_utc)}`] : [])
const honest = computed(() => [
  ...props.night.sunset_utc ? [] : [props.night.sun_words],
  ...props.night.dark.length ? [] : [props.night.dark_words],
])
const moonless = computed(() => props.night.moonless.map(span => `dark without Moon ${at(span.start_utc)}–${at(span.end_utc)}`))
const moon = computed(() => `${store.evening ? moonWords(store.evening) : ''}, ${props.night.moon_waxing ? 'waxing' : 'waning'}`)
</script>

<template>
  <p class="night">{{ [...honest, ...dusk, ...dawn, moon, ...moonless].join(' · ') }}</p>
</template>

<style scoped>
.night { font-size: 15px; }
</style>
