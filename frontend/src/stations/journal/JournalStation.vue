<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { observations, type Observation } from '@/api/items'
import { useAsked } from '@/shell/useAsked'
import { useNoting } from '@/stores/noting'
import { clockTime, dateWords } from '@/shell/time'

defineEmits<{ evening: [] }>()
const noting = useNoting()
const { answer: all, refusal, load } = useAsked(() => observations.list(), ['journal'])
const days = computed(() => {
  const found = new Map<string, Observation[]>()
  for (const one of all.value ?? []) {
    const day = dateWords(one.observed_at_utc, one.zone ?? 'UTC')
    found.set(day, [...found.get(day) ?? [], one])
  }
  return [...found].map(([day, list]) => ({ day, list }))
})
function glassWords (one: Observation): string {
  const power = one.magnification ? `${one.magnification.toFixed(0)}×` : ''
  return [one.telescope_name, one.glass, power].filter(Boolean).join(' · ')
}
onMounted(load)
</script>

<template>
  <section v-if="all?.length" class="journal scroll-y">
    <header class="head">
      <h1>Journal</h1>
      <p class="quiet">{{ all.length }} {{ all.length === 1 ? 'observation' : 'observations' }}</p>
      <v-btn color="primary" variant="flat" @click="noting.begin()">Note an observation</v-btn>
    </header>
    <section v-for="{ day, list } in days" :key="day" class="day">
      <h2>{{ day }}<span class="quiet small"> · {{ list[0]?.site_name }}</span></h2>
      <button v-for="one in list" :key="one.id ?? 0" type="button" class="entry plain-button" @click="noting.edit(one)">
        <span class="figures time">{{ clockTime(one.observed_at_utc, one.zone ?? 'UTC') }}</span>
        <span class="what">
          <b>{{ one.object_name }}</b>{{ ' ' }}
          <span
            class="quiet">{{ glassWords(one) }}</span>
          <span class="words">{{ one.words }}</span>
        </span>
        <span v-if="one.steadiness" class="steady" :aria-label="`steadiness ${one.steadiness} of 5`">
          <svg width="74" height="14" aria-hidden="true"><rect v-for="n in 5" :key="n" :x="(n - 1) * 15 + 1" y="1"
            width="12" height="12" rx="3" :class="{ full: n <= one.steadiness }" /></svg>
          <span class="quiet small">steady {{ one.steadiness }}/5</span>
        </span>
      </button>
    </section>
  </section>
  <section v-else class="empty">
    <p v-if="refusal" role="alert">{{ refusal.words }}</p>
    <v-progress-linear v-else-if="!all" indeterminate color="primary" aria-label="Reading the journal" />
    <template v-else>
      <svg viewBox="0 0 120 90" width="170" aria-hidden="true"><path
        d="M14 16h40l6 6 6-6h40v62H66l-6 6-6-6H14zM60 22v62M26 34h22M26 46h22M72 34h22" /></svg>
      <h1>Nothing written yet</h1>
      <p>One line while it is fresh is worth more than a page next week. Key o works from every station.</p>
      <v-btn color="primary" variant="flat" size="large" @click="noting.begin()">Note your first observation</v-btn>
    </template>
  </section>
</template>

<style scoped>
.journal { height: 100%; padding: 14px 20px; display: flex; flex-direction: column; gap: 14px; }
.head { display: flex; gap: 16px; align-items: center; } .head p { flex: 1; }
.day h2 { padding: 6px 0; }
.entry { display: grid; grid-template-columns: 64px minmax(0, 1fr) auto; gap: 14px; width: 100%; border-top: 1px solid var(--line); padding: 12px 8px; min-height: 56px; }
.entry:hover { background: var(--jade-wash); }
.words { display: block; max-width: 80ch; white-space: pre-line; }
.steady { display: grid; justify-items: end; align-content: start; }
.steady rect { fill: none; stroke: var(--ink-quiet); } .steady .full { fill: var(--jade); stroke: var(--jade); }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
@media (max-width: 699px) { .head { flex-wrap: wrap; } .entry { grid-template-columns: 56px 1fr; } .steady { grid-column: 2; justify-items: start; } }
</style>
