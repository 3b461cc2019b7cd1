<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { computed, ref } from 'vue'
import SketchView from '@/drawings/SketchView.vue'
import { observations, type Observation } from '@/api/items'
import { useNotices } from '@/shell/notices'
import { clockTime, isOwnTime } from '@/shell/time'
import { useAttempt } from '@/shell/useAsked'
import { useNoting } from '@/stores/noting'
import OutcomeMark from './OutcomeMark.vue'
import { OUTCOMES, stateOf } from './outcomes'

/** One observation whole: words, glass, air, sketch and picture; changed and taken out from here. */
const props = defineProps<{ note: Observation }>()
const emit = defineEmits<{ gone: [] }>()
const noting = useNoting()
const notices = useNotices()
const { refusal, once } = useAttempt()
const shown = ref<'sketch' | 'picture' | null>(null)
const zone = computed(() => props.note.zone ?? 'UTC')
const glass = computed(() => [props.note.telescope_name, props.note.glass, props.note.magnification ? `${props.note.magnification.toFixed(0)}×` : '']
  .filter(Boolean).join(' · '))
const sky = computed(() => [
  props.note.steadiness ? `steady ${props.note.steadiness} of 5` : '', props.note.transparency ? `clear ${props.note.transparency} of 5` : '',
  props.note.observer_name ? `at the eyepiece: ${props.note.observer_name}` : '',
].filter(Boolean).join(', '))
const state = computed(() => stateOf(props.note.outcome))
async function remove () {
  const id = props.note.id ?? 0
  await once(() => observations.remove(props.note))
  if (refusal.value) return
  emit('gone')
  notices.say(`${props.note.object_name} is out of the journal.`, () => observations.restore(id))
}
</script>

<template>
  <article class="note" :aria-label="note.object_name">
    <header>
      <OutcomeMark :state="state" />
      <h3>{{ note.object_name }}</h3>
      <span class="figures quiet">{{ clockTime(note.observed_at_utc, zone)
        }}{{ isOwnTime(note.zone) ? '' : ' UTC' }}</span>
      <span v-if="note.outcome" class="small">{{ OUTCOMES[state].word }}</span>
      <span class="tools">
        <v-btn variant="text" size="small" :aria-label="`Change ${note.object_name}`"
          @click="noting.edit(note)">Change</v-btn>
        <v-btn variant="text" size="small" :aria-label="`Delete ${note.object_name}`" @click="remove">Delete</v-btn>
      </span>
    </header>
    <p v-if="glass || sky" class="quiet small">{{ [glass, sky].filter(Boolean).join(' · ') }}</p>
    <p v-if="note.words" class="words">{{ note.words }}</p>
    <div v-if="note.sketch?.length || note.picture_name" class="pictures">
      <button v-if="note.sketch?.length" type="button" class="plain-button"
        :aria-label="`Sketch of ${note.object_name}, larger`"
        @click="shown = 'sketch'"><SketchView :strokes="note.sketch" :label="`Sketch of ${note.object_name}`"
          /></button>
      <button v-if="note.picture_name" type="button" class="plain-button"
        :aria-label="`Picture of ${note.object_name}, larger`" @click="shown = 'picture'">
        <img :src="`/api/journal/pictures/${note.picture_name}`" :alt="`Picture of ${note.object_name}`"
          loading="lazy">
      </button>
    </div>
    <p v-if="refusal" role="alert" class="small">{{ refusal.words }}</p>
    <PageDialog :model-value="shown !== null" max-width="760" :aria-label="`${note.object_name}, larger`"
      @update:model-value="shown = null">
      <v-card class="large">
        <SketchView v-if="shown === 'sketch'" :strokes="note.sketch ?? []" :label="`Sketch of ${note.object_name}`" />
        <img v-else :src="`/api/journal/pictures/${note.picture_name}`" :alt="`Picture of ${note.object_name}`">
        <v-btn @click="shown = null">Close</v-btn>
      </v-card>
    </PageDialog>
  </article>
</template>

<style scoped>
.note { border-top: 1px solid var(--line); padding: 10px 0; display: grid; gap: 4px; }
header { display: flex; gap: 4px 10px; align-items: center; flex-wrap: wrap; } h3 { font-size: 16px; }
.tools { margin-left: auto; display: flex; }
.words { white-space: pre-line; overflow-wrap: anywhere; max-width: 70ch; }
.pictures { display: flex; gap: 12px; flex-wrap: wrap; } .pictures > button { width: 150px; }
.pictures :deep(svg), img { width: 100%; display: block; border-radius: 8px; }
.large { padding: 16px; display: grid; gap: 12px; justify-items: start; } .large :deep(svg), .large img { max-height: 70dvh; width: 100%; object-fit: contain; }
</style>
