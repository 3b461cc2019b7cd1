<script setup lang="ts">
import { computed } from 'vue'
import SlimLadder from '@/drawings/SlimLadder.vue'
import HonestMark from '@/shell/HonestMark.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { clockTime } from '@/shell/time'
import { useEvening } from '@/stores/evening'
import { useEyepiece } from '@/stores/eyepiece'
import { usePlan } from '@/stores/plan'
import BesideList from './BesideList.vue'

/** What stands beside the step: ladder, people, eyes, what comes next; on a small screen a sheet of its own. */
const props = defineProps<{ isOpen: boolean }>()
const emit = defineEmits<{ close: [], people: [], air: [], white: [personId: number | null], pack: [], rehearse: [] }>()
const store = useEyepiece()
const evening = useEvening()
const plan = usePlan()
const open = computed({ get: () => props.isOpen, set: on => { if (!on) emit('close') } })
const events = computed(() => store.screen?.events.slice(0, 2) ?? [])
</script>

<template>
  <aside class="panel scroll-y" aria-label="Beside the step">
    <SlimLadder v-if="store.here" :rungs="store.here.rungs" :standing="store.step?.spot.rung_key || undefined"
      :air="store.here.air_magnification" class="ladder" />
    <BesideList @people="emit('people')" @air="emit('air')" />
    <section class="then">
      <h2>Then</h2>
      <p v-for="one in events" :key="one.words" :class="{ due: one.is_due }">
        <b class="figures">{{ one.is_due ? 'now' : clockTime(one.at_utc, evening.zone) }}</b> {{ one.words }}
        <HonestMark v-if="one.is_simulated" words="simulated" />
      </p>
    </section>
    <nav class="ways" aria-label="Other ways">
      <v-btn v-if="plan.isPlanned" variant="text" size="small" @click="plan.again()">Plan again from now</v-btn>
      <v-btn variant="text" size="small" @click="store.press('break')">Warmed up</v-btn>
      <v-btn variant="text" size="small" @click="emit('pack')">Pack up</v-btn>
      <v-btn variant="text" size="small" @click="emit('rehearse')">Rehearse</v-btn>
    </nav>
  </aside>
  <SideSheet v-model="open" title="At the eyepiece">
    <SlimLadder v-if="store.here" :rungs="store.here.rungs" :standing="store.step?.spot.rung_key || undefined"
      :air="store.here.air_magnification" class="ladder" />
    <BesideList @people="emit('people')" @air="emit('air')" />
    <section class="then">
      <h2>Then</h2>
      <p v-for="one in events" :key="one.words" :class="{ due: one.is_due }">
        <b class="figures">{{ one.is_due ? 'now' : clockTime(one.at_utc, evening.zone) }}</b> {{ one.words }}
        <HonestMark v-if="one.is_simulated" words="simulated" />
      </p>
    </section>
    <v-btn v-if="store.step?.enough" @click="store.enough(); emit('close')">Enough: write it down</v-btn>
    <v-btn v-if="store.here" @click="store.leave('skip'); emit('close')">Skip this target</v-btn>
    <v-btn v-if="plan.isPlanned" @click="plan.again(); emit('close')">Plan again from now</v-btn>
    <v-btn @click="store.press('break'); emit('close')">Warmed up: the break is over</v-btn>
    <v-btn @click="emit('close'); emit('pack')">Pack up</v-btn>
    <v-btn @click="emit('rehearse')">Rehearse an evening</v-btn>
  </SideSheet>
</template>

<style scoped>
.panel { padding: 14px 20px; display: flex; flex-direction: column; gap: 9px; }
.panel > * { flex: none; }
.ladder { max-height: 216px; }
.then { display: grid; gap: 2px; border-top: 1px solid var(--line); padding-top: 8px; font-size: 15px; }
.then h2 { font-size: 14px; color: var(--ink-quiet); font-weight: 400; }
.due { font-weight: 700; }
.ways { display: flex; flex-wrap: wrap; margin: 0 -8px; } .ways .v-btn { font-size: 14px; padding: 0 8px; }
@media (max-width: 999px) { .panel { display: none; } }
</style>
