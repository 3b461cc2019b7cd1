<script setup lang="ts">
import { nextTick, onMounted, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { call, type Schema } from '@/api/client'
import { telescopes } from '@/api/items'
import { useNotices } from '@/shell/notices'
import { useAsked, useAttempt } from '@/shell/useAsked'
import { usePractice, type DrillName } from '@/stores/practice'
import SymptomPicture from '@/drawings/SymptomPicture.vue'
import DrillPicture from './DrillPicture.vue'

/** The wall of drills, drawn as the instrument each trains. */
const emit = defineEmits<{ enter: [run: number] }>()
const practice = usePractice()
const { answer: wall, refusal, isLoading, load } = useAsked(() => call<Schema<'Wall'>>('/practice'), ['practice', 'evening', 'kit'])
onMounted(load)
/** Whoever was sent here for one drill stands before it. */
const cards = useTemplateRef<HTMLElement[]>('card')
const route = useRoute()
watch(wall, async (now, before) => {
  const wanted = before ? -1 : now?.cards.findIndex(one => one.drill === route.query.drill) ?? -1
  if (wanted < 0) return
  await nextTick()
  cards.value?.[wanted]?.querySelector('button')?.focus()
})
const beginning = useAttempt()
async function begin (drill: DrillName, way = '') {
  const run = await beginning.once(() => practice.begin(drill, way))
  if (run) emit('enter', run.id)
}
/** On with the lesson that waits: where it was left, else from its beginning. */
function goOn (drill: DrillName) {
  const open = wall.value?.cards.find(one => one.drill === drill)?.open_id
  if (open) emit('enter', open)
  else void begin(drill)
}
const marking = useAttempt()
const notices = useNotices()
async function mark (id: number, isNew: boolean) {
  const one = await telescopes.one(id)
  if (one) await telescopes.change(id, { ...one, is_new: isNew })
  return one
}
async function unmark (id: number) {
  const before = await marking.once(() => mark(id, false))
  if (before) notices.say(`${before.name} is marked new no more.`, async () => { await mark(id, true) })
}
</script>

<template>
  <section class="wall scroll-y" tabindex="0" role="region" aria-label="Drills">
    <header class="head">
      <h1>Practise by day, warm and without an audience</h1>
      <p v-if="wall" class="quiet small">Whose: {{ wall.observer_name }}<template v-if="wall.telescope_name">, with
        {{ wall.telescope_name }}</template>. Everything here is simulated; nothing is pointed at the sky.
        {{ wall.sun_words }}</p>
    </header>
    <section v-if="wall?.path" class="path" aria-label="First telescope">
      <p><b>{{ wall.path.words }}</b></p>
      <ol>
        <li v-for="one in wall.path.lessons" :key="one.drill" :class="{ next: one.drill === wall.path.next_drill }">
          <span aria-hidden="true" class="tick">{{ one.is_passed ? '✓' : '·' }}</span> {{ one.title }}
          <span class="sr-only">{{ one.is_passed ? 'done' : 'to do' }}</span></li>
      </ol>
      <v-btn v-if="wall.path.next_drill" color="primary" variant="flat" :loading="beginning.isBusy.value"
        @click="goOn(wall.path.next_drill)">Next lesson</v-btn>
      <v-btn v-else color="primary" variant="flat" @click="unmark(wall.path.telescope_id)">Take the mark off</v-btn>
    </section>
    <p v-if="marking.refusal.value" role="alert">{{ marking.refusal.value.words }}</p>
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <p v-if="beginning.refusal.value" role="alert">{{ beginning.refusal.value.words }}</p>
    <v-progress-linear v-if="!wall" :active="isLoading" indeterminate color="primary"
      aria-label="Setting up the drills" />
    <div class="cards">
      <article class="card" aria-label="What is wrong?">
        <SymptomPicture picture="shadow" class="picture" />
        <h2>What is wrong?</h2>
        <p class="what">Short questions lead from what you see to its cause.</p>
        <p class="quiet small progress">By day or in the dark.</p>
        <div class="acts">
          <v-btn color="primary" variant="flat" :to="{ query: { wrong: '' } }">Find the cause</v-btn>
        </div>
      </article>
      <article v-for="card in wall?.cards" ref="card" :key="card.drill" :class="['card', { wanted: card.is_wanted }]"
        :aria-label="card.title">
        <DrillPicture :drill="card.drill" class="picture" />
        <h2>{{ card.title }}</h2>
        <p class="what">{{ card.words }}</p>
        <p class="quiet small progress"><span v-if="card.is_passed" class="tick" aria-hidden="true">✓</span>
          {{ card.progress }}</p>
        <p v-if="card.blocked" class="small">{{ card.blocked }} <router-link to="/kit">To the kit</router-link></p>
        <div v-else class="acts">
          <v-btn v-if="card.open_id" color="primary" variant="flat" @click="emit('enter', card.open_id)">Go on</v-btn>
          <v-btn v-for="(way, n) in card.ways.length ? card.ways : [{ value: '', title: 'Begin' }]" :key="way.value"
            :color="card.open_id || n ? undefined : 'primary'" :variant="card.open_id || n ? 'text' : 'flat'"
            :loading="beginning.isBusy.value"
            @click="begin(card.drill, way.value)">
            {{ card.open_id && !card.ways.length ? 'Begin anew' : way.title }}</v-btn>
        </div>
      </article>
    </div>
  </section>
</template>

<style scoped>
.wall { height: 100%; padding: 16px 20px; display: flex; flex-direction: column; gap: 14px; }
.head { display: grid; gap: 2px; }
.path { display: flex; align-items: center; gap: 6px 18px; flex-wrap: wrap; border-left: 6px solid var(--jade); padding: 4px 0 4px 14px; }
.path ol { list-style: none; display: flex; flex-wrap: wrap; gap: 4px 16px; margin: 0; padding: 0; } .next { font-weight: 700; text-decoration: underline; text-underline-offset: 4px; }
.cards { display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 214px), 1fr)); gap: 12px; }
.card { border: 1px solid var(--line); border-radius: 12px; background: var(--surface); padding: 10px 14px 12px; display: grid; gap: 4px; align-content: start; grid-template-rows: auto auto 1fr auto auto; }
.wanted { border: 3px solid var(--sun); padding: 8px 12px 10px; }
.picture { height: 68px; width: 100%; }
.acts { display: flex; gap: 4px; flex-wrap: wrap; } .acts .v-btn { padding: 0 10px; min-width: 48px; }
.what { line-height: 1.3; } .tick { color: var(--jade); font-weight: 800; }
@media (max-width: 699px) {
  .wall { padding: 12px; } .card { grid-template: auto / 76px minmax(0, 1fr); column-gap: 14px; } .card > * { grid-column: 2; }
  .card > .picture { grid-column: 1; grid-row: 1 / span 3; width: 76px; height: 76px; align-self: center; }
}
</style>
