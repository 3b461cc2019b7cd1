<script setup lang="ts">
import { onMounted } from 'vue'
import { call, type Schema } from '@/api/client'
import { observers } from '@/api/items'
import { useNotices } from '@/shell/notices'
import { useAsked, useAttempt } from '@/shell/useAsked'

type Lesson = Schema<'Lesson'>
/** What the records teach: a sentence, a small drawing, and from how many records. Nothing changes by itself. */
const { answer, refusal, isLoading, load } = useAsked(() => call<Lesson[]>('/journal/lessons'), ['journal', 'evening', 'kit', 'eyepiece'])
onMounted(load)
const notices = useNotices()
const taking = useAttempt()
const widest = (lesson: Lesson) => Math.max(...lesson.rows.flatMap(one => [one.value, one.mark ?? 0]))
const share = (value: number, lesson: Lesson) => `${100 * value / widest(lesson)}%`
async function setFactor (id: number, factor: number | null) {
  const person = await observers.one(id)
  if (person) await observers.save(id, { ...person, field_factor: factor })
  return person
}
async function take (offer: Schema<'EyeOffer'>) {
  const before = await taking.once(() => setFactor(offer.observer_id, offer.field_factor))
  if (!before) return
  await load()
  notices.say(`${before.name}'s eye is reckoned with ${offer.field_factor} from now on.`, async () => {
    await setFactor(offer.observer_id, before.field_factor ?? null)
    await load()
  })
}
</script>

<template>
  <div class="lessons scroll-y" tabindex="0" role="region" aria-label="What the notes teach">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!answer" :active="isLoading" indeterminate color="primary"
      aria-label="Reading the records" />
    <p v-if="taking.refusal.value" role="alert">{{ taking.refusal.value.words }}</p>
    <article v-for="lesson in answer ?? []" :key="lesson.key" :class="{ few: !lesson.rows.length }"
      :aria-label="lesson.title">
      <h2>{{ lesson.title }}</h2>
      <p>{{ lesson.sentence }}</p>
      <ul v-if="lesson.rows.length" class="rows">
        <li v-for="one in lesson.rows" :key="one.label">
          <span class="label small">{{ one.label }}</span>
          <span class="track" aria-hidden="true"><i :style="{ width: share(one.value, lesson) }" /><b v-if="one.mark"
            :style="{ left: share(one.mark, lesson) }" /></span>
          <span class="figures small">{{ one.words }}</span>
          <span class="quiet small">{{ one.records }}</span>
        </li>
      </ul>
      <p v-if="lesson.rows.some(one => one.mark)" class="quiet small">The upright line is what is reckoned with
        now.</p>
      <p v-for="offer in lesson.offers" :key="offer.observer_id" class="offer">
        {{ offer.words }} <v-btn size="small" color="primary" variant="flat" :loading="taking.isBusy.value"
          @click="take(offer)">Use {{ offer.field_factor }}</v-btn></p>
    </article>
  </div>
</template>

<style scoped>
.lessons { height: 100%; display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 480px), 1fr)); gap: 14px; align-content: start; padding-bottom: 14px; }
article { border: 1px solid var(--line); border-radius: 10px; background: var(--surface); padding: 14px 18px; display: grid; gap: 8px; align-content: start; }
.few { background: none; border-style: dashed; }
.rows { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
li { display: grid; grid-template-columns: minmax(0, 1.6fr) minmax(40px, 1fr) minmax(0, 1.2fr) 34px; gap: 10px; align-items: center; }
.track { position: relative; height: 12px; border-radius: 6px; background: var(--line); } .track i { display: block; height: 100%; border-radius: 6px; background: var(--jade); }
.track b { position: absolute; top: -4px; width: 3px; height: 20px; background: var(--ink); }
li > :last-child { text-align: right; }
.offer { display: flex; gap: 12px; align-items: center; flex-wrap: wrap; background: var(--brass-wash); border-radius: 8px; padding: 8px 12px; }
</style>
