<script setup lang="ts">
import { computed } from 'vue'
import SideSheet from '@/shell/SideSheet.vue'
import { useEyepiece } from '@/stores/eyepiece'
import { usePlan } from '@/stores/plan'
import BesideList from './BesideList.vue'

/** What stands beside the step: ladder, people, eyes, what comes next; on a small screen a sheet of its own. */
const props = defineProps<{ isOpen: boolean }>()
const emit = defineEmits<{ close: [], people: [], air: [], pack: [], rehearse: [] }>()
const store = useEyepiece()
const plan = usePlan()
const open = computed({ get: () => props.isOpen, set: on => { if (!on) emit('close') } })
</script>

<template>
  <aside class="panel scroll-y" aria-label="Beside the step">
    <BesideList @people="emit('people')" @air="emit('air')" />
    <nav class="ways" aria-label="Other ways">
      <v-btn v-if="plan.isPlanned" variant="text" size="small" @click="plan.again()">Plan again from now</v-btn>
      <v-btn variant="text" size="small" @click="store.press('break')">Warmed up</v-btn>
      <v-btn variant="text" size="small" @click="emit('pack')">Pack up</v-btn>
      <v-btn variant="text" size="small" @click="emit('rehearse')">Rehearse</v-btn>
    </nav>
  </aside>
  <SideSheet v-model="open" title="Beside the step">
    <BesideList @people="emit('people')" @air="emit('air')" />
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
.ways { flex: none; display: flex; flex-wrap: wrap; margin: 0 -8px; } .ways .v-btn { font-size: 14px; padding: 0 8px; }
@media (max-width: 999px) { .panel { display: none; } }
</style>
