<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'

/** A tube and what matters on it: filter, finder, eye, shadow, Sun. */
const props = defineProps<{ picture: Schema<'SunStepShown'>['picture'] }>()
const is = (...names: string[]) => names.includes(props.picture)
/** Where the tube points, in degrees up from level. */
const tilt = computed(() => is('turned_away') ? 32 : is('sun_behind', 'sun_beside') ? -8 : -32)
const hasFront = computed(() => is('filter_front', 'finder_off', 'finder_open', 'shadow', 'eye_along', 'alone', 'company'))
const sun = computed(() => is('sun_behind') ? { x: -58, y: -22 } : is('sun_beside') ? { x: 50, y: -30 } : { x: 58, y: -34 })
</script>

<template>
  <svg viewBox="-80 -52 160 104" class="scene" aria-hidden="true">
    <g v-if="!is('lamp')" :transform="`translate(${sun.x} ${sun.y})`" class="sun">
      <circle r="9" /><path d="M0 -15V-12M0 15V12M-15 0H-12M15 0H12M-11 -11L-9 -9M11 11L9 9M11 -11L9 -9M-11 11L-9 9" />
    </g>
    <template v-if="is('lamp')">
      <circle cx="-36" r="18" class="lamp" /><path d="M-36 18V34M-46 34H-26" class="line" />
      <circle cx="24" r="24" class="filter" /><circle cx="30" cy="-6" r="2" class="hole" />
    </template>
    <g v-else :transform="`rotate(${tilt})`">
      <path d="M-44 -11H34V11H-44z" class="tube" /><path d="M-44 -4H-58V4H-44" class="tube" />
      <path v-if="hasFront" d="M38 -14V14" class="filter thick" />
      <path v-if="is('loose_filter')" d="M38 -14L48 10" class="filter thick dashed" />
      <path v-if="is('filter_eyepiece')" d="M-62 -7V7" class="filter thick" />
      <path v-if="is('finder_open', 'eye_along')" d="M-30 -22H12V-15H-30zM-22 -15V-11M4 -15V-11" class="tube" />
      <path v-if="is('turned_away')" d="M37 -13V13" class="cap" />
      <path v-if="is('eye_along')" d="M-78 -19q8 -8 16 0q-8 8 -16 0" class="line" />
    </g>
    <path v-if="!is('lamp')" d="M0 8L-14 46M0 8L14 46M-74 46H74" class="line" />
    <path v-if="is('shadow')" d="M-52 46H-30" class="shadow" />
    <path v-if="is('finder_off')" d="M34 38H62V46H34z" class="line" />
    <g v-if="is('alone')" class="line"><circle cx="66" cy="8" r="5" />
      <path d="M66 13V30M66 30L60 46M66 30L72 46M66 18L74 24" /></g>
    <g v-if="is('company')" class="line"><circle cx="-60" cy="-2" r="6" />
      <path d="M-60 4V26M-60 26L-66 46M-60 26L-54 46" /><circle cx="52" cy="18" r="4" />
      <path d="M52 22V34M52 34L48 46M52 34L56 46" /></g>
    <path v-if="is('sun_behind', 'sun_beside')" d="M60 46V14L66 6L72 14V46" class="line" />
    <path v-if="is('sun_behind')" d="M40 46V-30" class="line" />
  </svg>
</template>

<style scoped>
.scene { width: 100%; display: block; fill: none; stroke-width: 2.5; stroke-linejoin: round; stroke-linecap: round; }
.sun { stroke: var(--sun); } .sun circle { fill: var(--sun-wash); }
.tube { fill: var(--ground); stroke: var(--ink); } .line { stroke: var(--ink-quiet); }
.filter { stroke: var(--ink); fill: var(--ink); fill-opacity: 0.75; } .thick { stroke-width: 6; } .dashed { stroke-dasharray: 5 6; }
.cap { stroke: var(--jade); stroke-width: 7; } .lamp { stroke: var(--brass); fill: var(--brass-wash); }
.hole { fill: var(--ground); stroke: none; } .shadow { stroke: var(--ink); stroke-width: 7; }
</style>
