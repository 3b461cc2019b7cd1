<script setup lang="ts">
import { computed, onMounted, type Component } from 'vue'
import { usePractice, type DrillName } from '@/stores/practice'
import { useAttempt } from '@/shell/useAsked'
import HonestMark from '@/shell/HonestMark.vue'
import ScorePanel from './ScorePanel.vue'
import FinderRoom from './drills/FinderRoom.vue'
import FocusRoom from './drills/FocusRoom.vue'
import GlassRoom from './drills/GlassRoom.vue'
import KeepRoom from './drills/KeepRoom.vue'
import LevelRoom from './drills/LevelRoom.vue'
import PointingRoom from './drills/PointingRoom.vue'
import SunRoom from './drills/SunRoom.vue'
import WayRoom from './drills/WayRoom.vue'

/** One drill: its instrument fills the screen, the mentor's one line stands under it, the score comes at its end. */
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ leave: [], enter: [run: number] }>()
const practice = usePractice()
/** Each draws the scene of its drill and passes hands on. */
const ROOMS: Record<DrillName, Component> = {
  level: LevelRoom, finder: FinderRoom, focus: FocusRoom, glass: GlassRoom,
  which_way: WayRoom, pointing: PointingRoom, keep: KeepRoom, sun: SunRoom,
}
onMounted(() => { if (practice.run?.id !== props.id) void practice.open(props.id) })
const run = computed(() => practice.run?.id === props.id ? practice.run : null)
const beginning = useAttempt()
async function again () {
  const drill = run.value?.drill
  const now = drill && await beginning.once(() => practice.begin(drill, run.value?.way))
  if (now) emit('enter', now.id)
}
</script>

<template>
  <section class="room" :data-moves="run?.number">
    <header class="head">
      <v-btn variant="text" @click="emit('leave')">All drills</v-btn>
      <div class="title"><h1>{{ run?.title ?? 'Practice' }}</h1>
        <p v-if="run" class="quiet small">{{ run.whose }}</p></div>
      <HonestMark words="simulated" />
    </header>
    <p v-if="practice.isHeld" role="status" class="held small">Nobody answers: {{ practice.waiting.length }}
      {{ practice.waiting.length === 1 ? 'move waits' : 'moves wait' }} here and will be made.
      <button type="button" class="link-button" @click="practice.tell()">Try again</button></p>
    <p v-else-if="practice.refusal" role="alert">{{ practice.refusal.words }}</p>
    <p v-if="run?.lent && !run.is_over" class="quiet small">{{ run.lent }}</p>
    <template v-if="run">
      <ScorePanel v-if="run.is_over && run.score" :score="run.score" :is-busy="beginning.isBusy.value" @again="again" />
      <template v-else>
        <component :is="ROOMS[run.drill]" :scene="run.scene" class="instrument" />
        <p v-if="run.drill !== 'sun'" class="say" role="status">{{ run.say }}</p>
      </template>
      <p v-if="beginning.refusal.value" role="alert">{{ beginning.refusal.value.words }}</p>
    </template>
  </section>
</template>

<style scoped>
.room { height: 100%; min-height: 0; padding: 8px 20px 12px; display: flex; flex-direction: column; gap: 8px; }
.head { display: flex; align-items: center; gap: 12px; flex: none; } .title { flex: 1; min-width: 0; } .title p { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.instrument { flex: 1 1 0; min-height: 0; }
.say { flex: none; font-size: 24px; line-height: 1.25; font-weight: 700; min-height: 2.5em; display: flex; align-items: center; border-top: 1px solid var(--line); padding-top: 8px; }
.held { border-left: 6px solid var(--brass); padding-left: 10px; }
@media (max-width: 699px) { .room { padding: 4px 12px 8px; } .say { font-size: 18px; } .head .v-btn { padding: 0 6px; } }
</style>

<style>
/* what the eye sees, and what the hands do beside it */
.drill-room { display: grid; grid-template-columns: minmax(0, 1fr) minmax(300px, 400px); gap: 20px; }
.drill-room > .view { display: flex; flex-direction: column; gap: 8px; min-height: 0; align-items: center; }
.drill-room .seen { flex: 1 1 0; min-height: 0; width: 100%; }
.drill-room > .hands { display: grid; grid-template-columns: minmax(0, 1fr); gap: 8px; align-content: safe center; min-height: 0; overflow-y: auto; }
.drill-room .edged { border: 1px solid var(--edge); }
.drill-room .left { font-size: 44px; line-height: 1; font-weight: 700; }
.drill-room .hands > .row { display: flex; gap: 8px; } .drill-room .hands > .row .v-btn { flex: 1 1 0; }
@media (max-width: 699px) {
  .drill-room { display: flex; flex-direction: column; gap: 8px; overflow-y: auto; }
  .drill-room > .hands, .drill-room > .view { flex: none; overflow: visible; }
  .drill-room .seen { flex: none; height: min(62vw, 30dvh); } .drill-room .left { font-size: 26px; }
  /* what the eye sees stays in sight while the hands are scrolled to */
  .drill-room > .view:has(.seen) { position: sticky; top: 0; z-index: 1; background: var(--ground); padding-bottom: 4px; }
  .drill-room:has(.seen) { scroll-padding-top: calc(min(62vw, 30dvh) + 64px); }
}
</style>
