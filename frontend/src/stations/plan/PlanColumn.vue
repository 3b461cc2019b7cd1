<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { clockTime } from '@/shell/time'
import { usePlan, type Block } from '@/stores/plan'
import { useTonight } from '@/stores/tonight'

/** The plan itself: blocks as long as their minutes, moved by the handle or by keys, pinned, skipped, taken away. */
const props = defineProps<{ zone: string }>()
const plan = usePlan()
const tonight = useTonight()
onMounted(plan.load)
const at = (utc: string | null) => clockTime(utc, props.zone)
const answer = computed(() => plan.answer)
const MINUTE_MS = 60_000
const STEP_MIN = 5
const PX_A_MINUTE = 2.4
const LEAST_PX = 58
const height = (block: Block) => `${Math.max(LEAST_PX, block.minutes * PX_A_MINUTE)}px`
const reserveWhen = computed(() => {
  const by = answer.value?.reserve_by
  return by ? `; the clearest hour begins at ${at(by.hour_utc)}${by.is_simulated ? ' by simulated weather' : ''}` : ''
})
const span = computed(() => {
  const blocks = answer.value?.blocks ?? []
  const last = blocks[blocks.length - 1]
  return blocks[0] && last ? `${at(blocks[0].starts_utc)}–${at(last.ends_utc)}` : ''
})
const later = (utc: string, minutes: number) => new Date(Date.parse(utc) + minutes * MINUTE_MS).toISOString().replace('.000Z', 'Z')
const move = (block: Block, minutes: number) => plan.alter(block.item_id!, { pinned_utc: later(block.starts_utc, minutes) })
const togglePin = (block: Block) => plan.alter(block.item_id!, { pinned_utc: block.is_pinned ? null : block.starts_utc })
const longer = (block: Block, minutes: number) => plan.alter(block.item_id!, { minutes: block.minutes + minutes })

const dragged = ref<{ id: number, from: number, minutes: number } | null>(null)
function onDown (block: Block, event: PointerEvent) {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  dragged.value = { id: block.item_id!, from: event.clientY, minutes: 0 }
}
function onMove (event: PointerEvent) {
  if (dragged.value) dragged.value.minutes = Math.round((event.clientY - dragged.value.from) / PX_A_MINUTE / STEP_MIN) * STEP_MIN
}
function onUp (block: Block) {
  const minutes = dragged.value?.minutes ?? 0
  dragged.value = null
  if (minutes) void move(block, minutes)
}
function onKey (block: Block, event: KeyboardEvent) {
  const way = { ArrowUp: -STEP_MIN, ArrowDown: STEP_MIN }[event.key]
  if (way === undefined) return
  event.preventDefault()
  void move(block, way)
}
</script>

<template>
  <aside class="plan-column" aria-label="The plan">
    <header>
      <h2>The plan</h2>
      <span v-if="span" class="quiet small figures">{{ span }}</span>
      <v-btn v-if="answer?.blocks.length || answer?.left_out.length" size="small" variant="text" class="again"
        @click="plan.again()">Again from now</v-btn>
    </header>
    <p v-if="plan.refusal" role="alert">{{ plan.refusal.words }}</p>
    <template v-if="!plan.isPlanned || (answer && !answer.blocks.length && !answer.left_out.length)">
      <p class="quiet">Nothing planned yet. Add targets one by one, or begin with the best of the list.</p>
      <v-btn color="primary" variant="flat" @click="plan.add([])">Plan the evening</v-btn>
    </template>
    <v-progress-linear v-else-if="!answer" :active="plan.isLoading" indeterminate color="primary"
      aria-label="Finding the best order" />
    <template v-else>
      <ol class="blocks" aria-label="Blocks of the plan">
        <li v-for="block in answer.blocks" :key="`${block.kind}${block.starts_utc}`" :style="{ minHeight:
          height(block) }"
          :class="[block.kind, { pinned: block.is_pinned, dragged: dragged?.id === block.item_id }]">
          <span class="time figures">{{ at(dragged && dragged.id === block.item_id
            ? later(block.starts_utc, dragged.minutes) : block.starts_utc) }}</span>
          <div v-if="block.kind === 'break'" class="what quiet">{{ block.label }}
            <span class="figures small">{{ block.minutes }} min</span></div>
          <div v-else class="what">
            <button type="button" class="handle" :aria-label="`Move ${block.label}: drag, or arrow keys`"
              @pointerdown="onDown(block, $event)" @pointermove="onMove" @pointerup="onUp(block)"
              @keydown="onKey(block, $event)">⋮⋮</button>
            <button type="button" class="link-button name" @click="tonight.chosenKey = block.target_key">{{
              block.label }}</button>
            <div class="deeds">
              <span class="small quiet glass">{{ [block.rung_label, block.word].filter(Boolean).join(' · ') }}</span>
              <button type="button" :aria-label="`${block.label}: five minutes less`"
                :disabled="block.minutes <= STEP_MIN" @click="longer(block, -STEP_MIN)">−</button>
              <span class="figures small">{{ block.minutes }} min</span>
              <button type="button" :aria-label="`${block.label}: five minutes more`"
                @click="longer(block, STEP_MIN)">+</button>
              <button type="button" :aria-pressed="block.is_pinned" :aria-label="`Pin ${block.label} to its time`"
                @click="togglePin(block)">{{ block.is_pinned ? 'pinned' : 'pin' }}</button>
              <button type="button" :aria-label="`Skip ${block.label}`"
                @click="plan.alter(block.item_id!, { is_skipped: true })">skip</button>
            </div>
          </div>
        </li>
      </ol>
      <ul v-if="answer.left_out.length" class="out" aria-label="Left out of the plan">
        <li v-for="one in answer.left_out" :key="one.item_id ?? 0"><b>{{ one.label }}</b> <span class="small">{{
          one.why }}</span>
          <button v-if="one.why === 'Skipped.'" type="button" class="link-button"
            @click="plan.alter(one.item_id!, { is_skipped: false })">put back</button>
          <button type="button" class="link-button" :aria-label="`Take ${one.label} off the plan`"
            @click="plan.remove(one.item_id!)">take off</button></li>
      </ul>
      <p class="small quiet">{{ answer.words }}<template v-if="answer.reserve.length"> In a gap in the clouds:
        {{ answer.reserve.join(', ') }}{{ reserveWhen }}.</template></p>
    </template>
  </aside>
</template>

<style scoped>
.plan-column { display: flex; flex-direction: column; gap: 8px; border-left: 1px solid var(--line); padding: 0 0 16px 16px; }
header { display: flex; flex: none; flex-wrap: wrap; gap: 0 8px; align-items: baseline; min-height: max(36px, var(--least)); }
header h2 { white-space: nowrap; } header > .figures { flex: 1 0 auto; } header :deep(.v-btn) { padding: 0 4px; }
.again { color: var(--jade); }
.blocks, .out { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
.blocks li { display: grid; grid-template-columns: 52px minmax(0, 1fr); gap: 8px; }
.time { font-size: 14px; padding-top: 6px; }
li:not(.break) .what { display: grid; grid-template-columns: 26px minmax(0, 1fr); }
.what { align-items: center; border: 1px solid var(--edge); border-radius: 8px; background: var(--surface); padding: 2px 6px; min-width: 0; }
.break .what { border-style: dashed; background: none; padding: 2px 12px; }
.pinned .what { border-color: var(--brass); box-shadow: inset 4px 0 0 var(--brass); }
.dragged .what { outline: 3px solid var(--jade); }
.name { padding: 0; min-height: max(24px, var(--least)); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--ink); }
.glass { flex: 1; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.deeds { display: flex; align-items: center; grid-column: 2; min-width: 0; }
.deeds button, .handle { font: inherit; font-size: 14px; color: inherit; background: none; border: 0; min-width: max(26px, var(--least)); min-height: max(32px, var(--least)); padding: 0 5px; cursor: pointer; }
.deeds button[aria-pressed='true'] { color: var(--brass-ink); font-weight: 700; }
.handle { grid-row: span 2; touch-action: none; cursor: grab; color: var(--ink-quiet); min-width: max(24px, var(--least)); padding: 0; }
.out li { border-top: 1px solid var(--line); padding: 4px 0; }
.out .link-button { padding: 0 6px; min-height: max(32px, var(--least)); }
:root[data-regime='dark'] .deeds button, :root[data-regime='dark'] .handle, :root[data-regime='dark'] .link-button { min-height: 48px; min-width: 48px; }
@media (max-width: 1023px) { .plan-column { border-left: 0; padding: 8px 0; } .deeds button, .handle { min-width: max(44px, var(--least)); min-height: 48px; } }
</style>
