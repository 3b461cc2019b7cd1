<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Schema } from '@/api/client'
import { usePractice } from '@/stores/practice'
import SunPicture from './SunPicture.vue'

/** Four steps, of which one may be unsafe: it is found, or all are called safe. */
const props = defineProps<{ scene: Schema<'SunScene'> }>()
const practice = usePractice()
/** After an answer its reason stands until one goes on. */
const showsJudged = ref(false)
watch(() => props.scene.judged?.why, (now, before) => { if (now && before !== undefined) showsJudged.value = true })
watch(() => props.scene.scene, () => { showsJudged.value = !!props.scene.judged })
// the keys go on with what comes next
const room = useTemplateRef<HTMLElement>('room')
watch(showsJudged, async now => {
  await nextTick()
  room.value?.querySelector<HTMLElement>(now ? '.on' : 'button.step')?.focus()
})
const answer = (choice: number) => practice.make({ drill: 'sun', choice, scene: props.scene.scene })
</script>

<template>
  <div ref="room" class="sun-room scroll-y">
    <template v-if="showsJudged && scene.judged">
      <p class="quiet">Scene {{ scene.scene - 1 }} of {{ scene.scenes }}</p>
      <h2 class="question" role="status">{{ scene.judged.why }}</h2>
      <div class="steps">
        <div v-for="(step, n) in scene.judged.steps" :key="n"
          :class="['step', { unsafe: n === scene.judged.unsafe }]">
          <SunPicture :picture="step.picture" class="picture" /><span>{{ step.words }}</span>
          <b v-if="n === scene.judged.unsafe">unsafe</b><span v-else class="quiet">safe</span>
        </div>
      </div>
      <v-btn color="primary" variant="flat" size="large" class="on" @click="showsJudged = false">Next scene</v-btn>
    </template>
    <template v-else>
      <p class="quiet">Scene {{ scene.scene }} of {{ scene.scenes }}, {{ scene.right }} right</p>
      <h2 class="question">Which of these is unsafe?</h2>
      <div class="steps">
        <button v-for="(step, n) in scene.steps" :key="n" type="button" class="step" @click="answer(n)">
          <SunPicture :picture="step.picture" class="picture" /><span>{{ step.words }}</span>
        </button>
      </div>
      <v-btn size="large" class="on" @click="answer(scene.steps.length)">All four are safe</v-btn>
    </template>
  </div>
</template>

<style scoped>
.sun-room { display: flex; flex-direction: column; gap: 10px; }
.question { font-size: 24px; line-height: 1.25; font-weight: 800; max-width: 40em; min-height: 2.4em; }
.steps { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; }
.step { font: inherit; font-size: 18px; line-height: 1.35; color: var(--ink); text-align: start; background: var(--surface); border: 2px solid var(--edge); border-radius: 12px; padding: 10px 16px; display: grid; grid-template-columns: 120px minmax(0, 1fr) auto; gap: 16px; align-items: center; min-height: 108px; }
button.step { cursor: pointer; } button.step:hover { border-color: var(--jade); }
.unsafe { border: 4px solid var(--sun); background: var(--sun-wash); }
.picture { height: 76px; }
.on { align-self: start; min-width: 220px; border: 1px solid var(--edge); }
@media (max-width: 699px) {
  .steps { grid-template-columns: 1fr; gap: 8px; } .question { font-size: 19px; min-height: 0; }
  .step { font-size: 16px; grid-template-columns: 76px minmax(0, 1fr) auto; gap: 10px; min-height: 84px; padding: 6px 10px; } .picture { height: 52px; } .on { width: 100%; }
}
</style>
