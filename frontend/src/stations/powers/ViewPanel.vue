<script setup lang="ts">
import { mdiCheck } from '@mdi/js'
import { onMounted, ref, watch } from 'vue'
import SaveMenu from '@/drawings/SaveMenu.vue'
import ViewDisc from '@/drawings/ViewDisc.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import { useEvening } from '@/shell/evening'
import { useRungs } from '@/shell/rungs'
import { minutesSeconds } from '@/shell/time'
import { useDiscs } from './discs'

const rungs = useRungs()
const evening = useEvening()
const discs = useDiscs()
const SIDES = { eyepiece: 'Eyepiece', correct: 'Correct', mirrored: 'Mirrored', turned: 'Turned' } as const
const host = ref<HTMLElement | null>(null)
const find = ref<string | null>(discs.targetKey)
onMounted(() => discs.load())
watch(() => [rungs.selectedKey, rungs.ladder?.telescope_id, discs.targetKey, discs.mode, discs.besideKey, evening.version], () => discs.load())
watch(find, key => { if (key) discs.targetKey = key })
const label = (key: string | null | undefined) => rungs.ladder?.rungs.find(rung => rung.key === key)?.label ?? ''
</script>

<template>
  <header class="head">
    <v-autocomplete
      v-model="find" :items="discs.targets" item-title="label" item-value="key" label="In the view" variant="outlined"
      density="compact" hide-details auto-select-first class="find"
    />
    <v-btn variant="text" class="beside" @click="discs.besideKey = discs.besideKey ? null : rungs.selectedKey ?? null">
      {{ discs.besideKey ? 'One disc' : 'Set beside' }}
    </v-btn>
    <SaveMenu :host="host" name="view" />
  </header>
  <RefusalLine :refusal="discs.refusal" />
  <div ref="host" class="discs">
    <figure v-if="discs.disc">
      <ViewDisc :disc="discs.disc" class="one" />
      <figcaption v-if="discs.beside" class="small">{{ label(discs.disc.rung_key) }}</figcaption>
    </figure>
    <figure v-if="discs.beside">
      <ViewDisc :disc="discs.beside" class="one" />
      <figcaption class="small">{{ label(discs.beside.rung_key) }}</figcaption>
    </figure>
  </div>
  <div v-if="discs.disc" class="words">
    <p class="small">{{ discs.disc.words }} <span class="quiet">Centre to edge in {{ minutesSeconds(discs.disc.time_to_leave_s) }} min, drifting west. {{ discs.disc.mode_words }}</span></p>
    <div class="modes">
      <v-btn-toggle v-model="discs.mode" mandatory divided variant="outlined" aria-label="Which way up">
        <v-btn v-for="(word, mode) in SIDES" :key="mode" :value="mode" size="small" :title="mode === discs.disc.chart ? 'The side of a chart to use with this glass' : undefined">
          {{ word }}<template v-if="mode === discs.disc.chart"><v-icon :icon="mdiCheck" size="16" /><span class="sr-only">, use this side</span></template>
        </v-btn>
      </v-btn-toggle>
    </div>
  </div>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 6px; flex: none; }
.find { flex: 1; }
.beside { padding: 0 8px; }
.discs { flex: 1 1 180px; min-height: 200px; display: flex; gap: 8px; justify-content: center; }
figure { flex: 1; min-width: 0; margin: 0; display: flex; flex-direction: column; align-items: center; }
.one { flex: 1; min-height: 0; }
.words { display: grid; gap: 4px; }
.modes :deep(.v-btn) { padding: 0 9px; }
.modes { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
@media (max-width: 699px) { .discs { height: 330px; flex: none; } }
</style>
