<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { PART_DRAWINGS } from '@/drawings/partPaths'
import { useNotices } from '@/shell/notices'
import { useAttempt } from '@/shell/useAsked'
import { useBench, type Bench } from '@/stores/bench'
import StepHead from '../StepHead.vue'

/** One drawing per hand movement, the usual slip drawn crossed out; next and back. */
const props = defineProps<{ bench: Bench }>()
const store = useBench()
const notices = useNotices()
const { refusal, isBusy, attempt } = useAttempt()
/** The latest answer, until the bench itself has caught up with it. */
const answer = shallowRef<Schema<'AssembleAdvice'> | null>(null)
watch(() => props.bench.assembly, () => { answer.value = null })
const parts = computed(() => (answer.value ?? props.bench.assembly).parts)
const firstOpen = () => Math.max(0, parts.value.findIndex(one => !one.is_done))
const at = ref(firstOpen())
const part = computed(() => parts.value[Math.min(at.value, parts.value.length - 1)])
const drawing = computed(() => part.value && PART_DRAWINGS[part.value.part])
watch(() => props.bench.assembly.next_part, (now, old) => { if (now && old === null) at.value = firstOpen() })
const isLast = computed(() => parts.value.filter(one => !one.is_done && one.part !== part.value?.part).length === 0)

async function send (given: Partial<Schema<'AssembleInput'>>, isWhole: boolean, visit = store.visits): Promise<void> {
  const query = isWhole ? '?recorded=true' : '?turned=true'
  const told = await attempt(() => call<Schema<'AssembleAdvice'>>(`/setup/assemble${query}`, { method: 'POST', json: given }))
  if (!told) return
  answer.value = told
  // another window may have done the rest meanwhile
  if (told.is_done && !isWhole) return send({}, true, visit)
  if (told.is_done) {
    notices.say('Recorded: it is together.')
    store.goOn(visit)
    return
  }
  const later = told.parts.findIndex((one, n) => n > at.value && !one.is_done)
  at.value = later >= 0 ? later : Math.max(0, told.parts.findIndex(one => !one.is_done))
}
const done = () => part.value && send({ done: [part.value.part] }, isLast.value)
</script>

<template>
  <div class="assemble">
    <StepHead />
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <section v-if="part" class="card" :aria-label="part.title">
      <p class="count small quiet">{{ at + 1 }} of {{ parts.length }}: {{ part.title }}<b
        v-if="part.is_done"> ✓ done</b></p>
      <div class="two">
        <figure><svg viewBox="0 0 240 180" role="img" :aria-label="part.words"><path :d="drawing?.right"
          class="right" /></svg>
          <figcaption class="instruction">{{ part.words }}</figcaption></figure>
        <figure class="slip"><svg viewBox="0 0 240 180" role="img" :aria-label="`Wrong: ${part.slip}`"><path
          :d="drawing?.slip" class="wrong" /><path d="M20 16 220 166M220 16 20 166" class="cross" /></svg>
          <figcaption><b>Not so:</b> {{ part.slip }}</figcaption></figure>
      </div>
      <p>{{ part.why }} <span class="quiet">{{ part.tools }}</span></p>
    </section>
    <div class="foot">
    <div class="buttons">
      <v-btn size="large" :disabled="at === 0" @click="at -= 1">Back</v-btn>
      <v-btn color="primary" variant="flat" size="large" class="next" :loading="isBusy"
        @click="done">{{ isLast ? 'Done: it is together' : 'Done, next' }}</v-btn>
    </div>
    <v-btn variant="text" size="large" class="stands" @click="send({ stands: true }, true)">It stands together
      already</v-btn>
    </div>
    <ol class="dots" aria-label="Hand movements">
      <li v-for="(one, n) in parts" :key="one.part"><button type="button" :class="{ done: one.is_done }"
        :aria-current="n === at ? 'step' : undefined"
        :aria-label="`${n + 1}: ${one.title}${one.is_done ? ', done' : ''}`"
        @click="at = n"><span aria-hidden="true">{{ one.is_done ? '✓' : n + 1 }}</span></button></li>
    </ol>
  </div>
</template>

<style scoped>
.assemble { padding: 14px 24px; display: flex; flex-direction: column; gap: 14px; height: 100%; overflow-y: auto; max-width: 960px; }
.card { display: grid; gap: 10px; }
.two { display: grid; grid-template-columns: 1.4fr 1fr; gap: 24px; align-items: start; }
figure { margin: 0; display: grid; gap: 10px; }
svg { width: 100%; max-height: 300px; background: var(--surface); border: 1px solid var(--line); border-radius: 14px; }
.slip svg { max-height: 200px; }
.right { stroke: var(--ink); stroke-width: 4; fill: none; stroke-linejoin: round; stroke-linecap: round; }
.wrong { stroke: var(--ink-quiet); stroke-width: 4; fill: none; stroke-linejoin: round; stroke-linecap: round; }
.cross { stroke: var(--brass); stroke-width: 5; opacity: 0.8; }
.instruction { font-size: 25px; font-weight: 700; line-height: 1.22; border-left: 6px solid var(--brass); padding-left: 14px; }
.buttons { display: flex; gap: 12px; flex-wrap: wrap; }
.foot { display: flex; gap: 12px; flex-wrap: wrap; flex: none; }
.stands { align-self: flex-start; flex: none; }
.dots { list-style: none; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 6px; }
.dots button { width: 48px; height: 48px; border-radius: 50%; border: 2px solid var(--edge); background: var(--ground); color: inherit; font: inherit; font-weight: 700; cursor: pointer; }
.dots .done { background: var(--jade-wash); border-color: var(--jade); }
.dots [aria-current] { border-color: var(--ink); border-width: 4px; }
@media (max-width: 699px) {
  .assemble { height: auto; padding: 12px; overflow: visible; }
  .two { grid-template-columns: 1fr; gap: 12px; }
  svg { max-height: 190px; } .slip { grid-template-columns: 110px 1fr; align-items: center; } .slip svg { max-height: 90px; }
  .instruction { font-size: 22px; }
  .next { flex: 1; }
  .foot { display: contents; }
  .buttons { position: sticky; bottom: 0; background: var(--ground); border-top: 1px solid var(--line); padding: 8px 0; z-index: 1; }
}
</style>
