<script setup lang="ts">
import { computed } from 'vue'
import type { Schema } from '@/api/client'
import type { Ladder } from '@/stores/rungs'
import { useSums } from '@/shell/sums'

const props = defineProps<{ ladder: Ladder, sights: readonly Schema<'Sight'>[] }>()
defineEmits<{ select: [key: string] }>()
const sums = useSums()
/** Each target's climbs; what is looked at whole and in detail has two. */
const climbs = computed(() => props.sights
  .filter(sight => sight.when !== 'not tonight' && sight.is_showpiece)
  .flatMap(({ target, glass, glass_sum, detail_sum }) => [
    { target, climb: glass?.top, sum: glass_sum }, { target, climb: glass?.detail, sum: detail_sum },
  ])
  .flatMap(({ target, climb, sum }) => climb && sum ? [{ target, climb, sum }] : []))
const gap = computed(() => props.ladder.gaps[0])
const CEILING_WORDS = { detail: '1 mm', comfort: '0.7 mm', steady: '0.5 mm', air: 'air' }
</script>

<template>
  <aside class="advice scroll-y" aria-label="Advice">
    <section v-if="ladder.start">
      <h2>Start here</h2>
      <p>{{ ladder.start.words }}</p>
      <p v-if="ladder.waiting_words" class="quiet small">{{ ladder.waiting_words }}</p>
      <button type="button" class="link-button" @click="$emit('select', ladder.start.key)">Stand on this rung</button>
    </section>
    <section v-if="climbs.length">
      <h2>Climb to</h2>
      <ul>
        <li v-for="one in climbs" :key="`${one.target.key} ${one.climb.is_detail}`" class="line">
          <button type="button" class="plain-button climb" @click="$emit('select', one.climb.key)">
            <b>{{ one.target.label }}</b>{{ one.climb.is_detail ? ' in detail' : '' }}{{ ' ' }}{{ one.climb.label }},
              {{ one.climb.magnification.toFixed(0) }}×
          </button>
          <button type="button" class="link-button why" :aria-label="`Why no higher for ${one.target.label}?`"
            @click="sums.open = one.sum">why?</button>
        </li>
      </ul>
    </section>
    <section v-if="ladder.twins.length">
      <h2>Twins</h2>
      <p v-for="twin in ladder.twins" :key="twin.keep">{{ twin.words }}</p>
    </section>
    <section v-if="gap">
      <h2>Widest gap</h2>
      <p>{{ gap.words }}</p>
    </section>
    <section v-if="ladder.claims.length">
      <h2>On the box</h2>
      <p v-for="claim in ladder.claims" :key="claim.claim"><s
        v-if="!claim.holds">“{{ claim.printed.toFixed(0) }}×”</s><b
        v-else>“{{ claim.printed.toFixed(0) }}×”</b>{{ ' ' }}{{ claim.verdict }} {{ claim.exact_sum }}.</p>
    </section>
    <section>
      <h2>Ceilings</h2>
      <p v-for="one in ladder.ceilings" :key="one.name" class="small">
        <b class="figures">{{ one.magnification.toFixed(0) }}×</b>{{ ' ' }}{{ one.words }}
        <span v-if="!one.sure" class="sr-only">{{ CEILING_WORDS[one.name] }} is an estimate</span>
      </p>
    </section>
    <section v-if="ladder.misfits.length">
      <h2>Does not fit</h2>
      <p v-for="misfit in ladder.misfits" :key="misfit.reason" class="small"><b>{{ misfit.labels.join(', ') }}</b>:
        {{ misfit.reason }}</p>
    </section>
  </aside>
</template>

<style scoped>
.advice { padding: 14px 18px; display: flex; flex-direction: column; min-height: 0; }
section { border-bottom: 1px solid var(--line); padding: 10px 0; display: grid; gap: 4px; }
section:last-child { border-bottom: 0; }
h2 { font-size: 14px; color: var(--ink-quiet); }
ul { list-style: none; padding: 0; margin: 0; }
.line { display: flex; align-items: center; }
.climb { min-height: max(32px, var(--least)); flex: 1; }
.why { min-height: max(32px, var(--least)); padding: 0 4px; }
.climb:hover { color: var(--jade); }
.link-button { padding: 4px 0; min-height: max(34px, var(--least)); }
@media (max-width: 1099px) { .advice { grid-column: 1 / -1; overflow: visible; } }
</style>
