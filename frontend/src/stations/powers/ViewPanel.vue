<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import SaveMenu from '@/drawings/SaveMenu.vue'
import ViewDisc from '@/drawings/ViewDisc.vue'
import { useEvening } from '@/shell/evening'
import { useRungs } from '@/shell/rungs'
import { minutesSeconds } from '@/shell/time'
import { useDiscs } from './discs'

const rungs = useRungs()
const evening = useEvening()
const discs = useDiscs()
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
    <SaveMenu :host="host" name="view" />
  </header>
  <p v-if="discs.refusal" role="alert" class="small">{{ discs.refusal.problem.detail }}</p>
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
    <p class="small">{{ discs.disc.words }} <span class="quiet">Centre to edge in {{ minutesSeconds(discs.disc.time_to_leave_s) }} min, drifting west. {{ discs.mode === 'naked' ? 'Up is toward the zenith.' : discs.disc.orientation.words }}</span></p>
    <div class="modes">
      <v-btn-toggle v-model="discs.mode" mandatory divided variant="outlined" aria-label="Which way up">
        <v-btn value="eyepiece" size="small">As in the eyepiece</v-btn>
        <v-btn value="naked" size="small">Naked eye</v-btn>
      </v-btn-toggle>
      <v-btn size="small" variant="text" @click="discs.besideKey = discs.besideKey ? null : rungs.selectedKey ?? null">
        {{ discs.besideKey ? 'One disc' : 'Set beside' }}
      </v-btn>
    </div>
  </div>
</template>

<style scoped>
.head { display: flex; align-items: center; gap: 6px; flex: none; }
.find { flex: 1; }
.discs { flex: 1 1 180px; min-height: 200px; display: flex; gap: 8px; justify-content: center; }
figure { flex: 1; min-width: 0; margin: 0; display: flex; flex-direction: column; align-items: center; }
.one { flex: 1; min-height: 0; }
.words { display: grid; gap: 4px; }
.modes { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
@media (max-width: 699px) { .discs { height: 330px; flex: none; } }
</style>
