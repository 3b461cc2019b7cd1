<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { computed, ref } from 'vue'
import { askFile } from '@/api/client'
import ImportDialog from '@/shell/ImportDialog.vue'
import { useKept } from '@/shell/kept'
import { save } from '@/shell/saveFile'
import { clockTime } from '@/shell/time'
import { toldFile } from '@/shell/toldFile'
import { useAttempt } from '@/shell/useAsked'
import { usePlan } from '@/stores/plan'
import { useTonight } from '@/stores/tonight'

/** The plan on paper and in files. Everything is saved, nothing opened: a white page would cost the dark eye. */
const props = defineProps<{ zone: string }>()
const plan = usePlan()
const tonight = useTonight()
const isOpen = ref(false)
const importIsOpen = ref(false)
const paper = useKept('paper', { size: 'A4', forTorch: false })
const hasTargets = computed(() => plan.answer?.blocks.some(one => one.kind === 'target') ?? false)
const style = computed(() => `paper=${paper.value.size}&for_torch=${paper.value.forTorch}`)
const sky = computed(() => `/plan/sky.pdf?${style.value}${tonight.atUtc ? `&${new URLSearchParams({ at_utc: tonight.atUtc })}` : ''}`)
const skyWords = computed(() => tonight.atUtc ? `at ${clockTime(tonight.atUtc, props.zone)}` : 'when looking begins')
const { refusal, isBusy, once } = useAttempt()
/** Pages take their time to draw: the button says so, and a refusal is told instead of saved. */
const print = (path: string, name: string) => once(async () => save(await askFile(path), name), path)
const HINT = 'A plan saved here as CSV or JSON, by you or a friend.'
const told = toldFile(count => `Wish for ${count} targets`)
</script>

<template>
  <v-btn variant="text" class="open" @click="isOpen = true">Print, save</v-btn>
  <PageDialog v-model="isOpen" max-width="520" aria-label="On paper and in files">
    <v-card class="paper">
      <h1>On paper</h1>
      <div class="choice">
        <v-btn-toggle role="group" v-model="paper.size" mandatory divided variant="outlined" aria-label="Paper">
          <v-btn value="A4">A4</v-btn><v-btn value="A5">A5</v-btn>
        </v-btn-toggle>
        <v-switch v-model="paper.forTorch" label="To be read by a red torch" color="primary" hide-details />
      </div>
      <ul>
        <li><v-btn :disabled="!hasTargets || isBusy"
          @click="print(`/plan/cards.pdf?${style}`, 'field-cards.pdf')">Field cards</v-btn>
          <span class="quiet small">{{ hasTargets ? 'the way there, the view, what to expect, room for notes'
            : 'plan the evening first' }}</span></li>
        <li><v-btn :disabled="isBusy" @click="print(sky, 'sky.pdf')">The whole sky</v-btn>
          <span class="quiet small">{{ skyWords }}; choose another moment on the ribbon</span></li>
      </ul>
      <v-progress-linear v-if="isBusy" indeterminate color="primary" aria-label="Drawing the pages" />
      <p v-else-if="refusal" role="alert">{{ refusal.words }}</p>
      <h2>In files</h2>
      <ul class="files">
        <li><a href="/api/plan/schedule.csv" download>CSV</a></li>
        <li><a href="/api/plan/schedule.json" download>JSON</a></li>
        <li><a href="/api/plan/schedule.ics" download>iCalendar</a></li>
        <li><button type="button" class="link-button" @click="importIsOpen = true">Read a plan …</button></li>
      </ul>
      <v-btn class="close" @click="isOpen = false">Close</v-btn>
    </v-card>
  </PageDialog>
  <ImportDialog v-model="importIsOpen" title="A plan from a file" :told="told" :hint="HINT"
    preview="/plan/schedule/file-preview" store="/plan/schedule/file" @applied="plan.refresh()" />
</template>

<style scoped>
.open { padding: 0 10px; }
.paper { padding: 24px; display: grid; gap: 14px; }
.choice { display: flex; gap: 20px; flex-wrap: wrap; align-items: center; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 8px; }
li { display: grid; gap: 2px; justify-items: start; }
.files { display: flex; gap: 20px; flex-wrap: wrap; align-items: center; }
a { min-height: max(36px, var(--least)); display: inline-flex; align-items: center; font-weight: 700; justify-self: start; }
:root[data-regime='dark'] a { min-height: 48px; }
h2 { font-size: 16px; }
.close { justify-self: start; }
</style>
