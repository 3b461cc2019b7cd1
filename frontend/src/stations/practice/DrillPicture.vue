<script setup lang="ts">
import type { DrillName } from '@/stores/practice'

/** The instrument a drill trains, small. */
defineProps<{ drill: DrillName }>()
</script>

<template>
  <svg viewBox="-80 -40 160 80" class="drill" aria-hidden="true">
    <template v-if="drill === 'finder'">
      <circle r="34" class="glass" /><path d="M-34 0H-6M6 0H34M0 -34V-6M0 6V34" class="thin" />
      <path d="M10 30V8L13 2L16 8V30" class="mark" />
    </template>
    <template v-else-if="drill === 'level'">
      <path d="M0 -34L62 34H-62z" class="wash" /><circle r="20" cy="10" class="glass" />
      <circle cx="7" cy="5" r="6" class="mark" />
    </template>
    <template v-else-if="drill === 'focus'">
      <circle r="32" class="glass" /><circle r="18" class="thin" /><circle r="10" class="thin" />
      <circle r="3" class="mark" /><path d="M48 -22a30 30 0 0 1 0 44M48 22l-2 -9M48 22l8 -5" class="thin" />
    </template>
    <template v-else-if="drill === 'glass'">
      <path d="M-58 -30H-26V4H-58zM-53 4H-31V34H-53z" class="glass" />
      <path d="M-8 -22H14V2H-8zM-4 2H10V34H-4z" class="glass" />
      <path d="M34 -12H50V4H34zM37 4H47V34H37z" class="wash" /><path d="M-58 -20H-26" class="mark" />
    </template>
    <template v-else-if="drill === 'which_way'">
      <circle r="34" class="glass" /><path d="M0 -22H14V-8L7 2L0 -8z" class="thin"
        transform="rotate(180) translate(-7 8)" />
      <path d="M-20 -10L-32 -2M-32 -2l2 -8M-32 -2l9 1" class="thin" /><circle r="3" cx="-16" cy="-13" class="mark" />
    </template>
    <template v-else-if="drill === 'pointing'">
      <circle r="30" cx="34" class="glass" /><path d="M34 -8l2 6l6 2l-6 2l-2 6l-2 -6l-6 -2l6 -2z" class="mark" />
      <path d="M-70 26L-20 2L-13 15L-63 39z" class="glass" /><path d="M-10 -4L2 -10" class="thin" />
    </template>
    <template v-else-if="drill === 'keep'">
      <circle r="34" class="glass" /><circle r="4" cx="16" cy="-5" class="mark" />
      <path d="M10 -3L-12 4M-12 4l9 1M-12 4l6 -7" class="thin" /><path d="M50 -18a26 26 0 0 1 0 36" class="thin" />
    </template>
    <template v-else-if="drill === 'sun'">
      <circle r="15" cx="50" cy="-18" class="sun" />
      <path d="M50 -38V-36M30 -18H28M36 -32L35 -33M64 -32L65 -33M72 -18H70" class="sun" />
      <path d="M-62 26L-22 6L-14 22L-54 42z" class="glass" transform="translate(0 -6)" />
      <path d="M-24 -2L-10 26" class="mark thick" />
      <path d="M-70 34H70" class="ground" />
    </template>
  </svg>
</template>

<style scoped>
.drill { width: 100%; display: block; fill: none; stroke-width: 2.5; stroke-linejoin: round; stroke-linecap: round; }
.wash { fill: var(--jade-wash); stroke: var(--ink-quiet); }
.glass { fill: var(--ground); stroke: var(--ink); }
.thin { stroke: var(--ink-quiet); stroke-width: 1.5; } .mark { fill: var(--jade); stroke: var(--jade); } .thick { stroke-width: 5; fill: none; }
.sun { stroke: var(--sun); stroke-width: 4; } .ground { stroke: var(--ink-quiet); }
</style>
