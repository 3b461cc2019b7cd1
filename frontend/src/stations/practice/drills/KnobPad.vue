<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schema } from '@/api/client'

/** The two arcs of a mount: each turned a little or a lot, either way. */
const props = defineProps<{ handling: Schema<'Handling'>, amounts: readonly number[] }>()
const emit = defineEmits<{ turn: [axis: 0 | 1, amount: number] }>()
const isLarge = ref(false)
const size = computed(() => props.amounts[isLarge.value ? 1 : 0] ?? 0)
const AXES = [0, 1] as const
const WAYS = [[0, -1], [1, 1]] as const
</script>

<template>
  <div class="knobs">
    <div v-for="axis in AXES" :key="axis" class="row" role="group" :aria-label="handling.arc_words[axis]">
      <span class="small">{{ handling.arc_words[axis] }}</span>
      <v-btn v-for="[n, sign] in WAYS" :key="n" @click="emit('turn', axis, sign * size)">
        {{ handling.way_words[axis][n] }}</v-btn>
    </div>
    <v-btn-toggle v-model="isLarge" role="group" mandatory divided variant="outlined" aria-label="How much to turn">
      <v-btn :value="false">a little</v-btn><v-btn :value="true">a lot</v-btn>
    </v-btn-toggle>
  </div>
</template>

<style scoped>
.knobs { display: grid; gap: 6px; }
.row { display: grid; grid-template-columns: 84px 1fr 1fr; gap: 6px; align-items: center; } .row .v-btn { border: 1px solid var(--edge); min-width: 0; padding: 0 4px; }
.knobs .v-btn-toggle .v-btn { flex: 1; }
</style>
