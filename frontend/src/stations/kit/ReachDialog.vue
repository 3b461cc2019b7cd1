<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useSums } from '@/shell/sums'
import { useAsked } from '@/shell/useAsked'

/** What one telescope can show before any evening: from the usual place, and from a dark one. */
const telescopeId = defineModel<number | null>({ required: true })
const sums = useSums()
const { answer, refusal, isAsked, load } = useAsked(async () => telescopeId.value === null
  ? null
  : call<Schema<'Reach'> | null>(`/kit/telescopes/${telescopeId.value}/reach`))
watch(telescopeId, now => {
  answer.value = null
  if (now !== null) void load()
})
</script>

<template>
  <PageDialog :model-value="telescopeId !== null" max-width="960" scrollable aria-label="What it can show"
    @update:model-value="telescopeId = null">
    <v-card class="reach">
      <p v-if="refusal" role="alert">{{ refusal.words }}</p>
      <template v-else-if="answer">
        <h1>What the {{ answer.telescope }} can show</h1>
        <div class="list scroll-y" tabindex="0" role="region" aria-label="All it can show">
          <dl>
            <div><dt>Faintest star</dt>
              <dd><button type="button" class="plain-button big figures" @click="sums.open = answer.faintest_sum">{{
                answer.faintest_here_mag.toFixed(1) }}<span class="unit">mag</span></button>
                <span class="quiet">{{ answer.faintest_dark_mag.toFixed(1) }} from a dark place</span></dd></div>
            <div><dt>Finest detail</dt>
              <dd><button type="button" class="plain-button big figures" @click="sums.open = answer.finest_sum">{{
                answer.finest_arcsec.toFixed(1) }}<span class="unit">″</span></button>
                <span class="quiet">about {{ answer.finest_moon_km.toPrecision(2) }} km on the Moon</span></dd></div>
          </dl>
          <section>
            <h2>On the planets, in calm air</h2>
            <p v-for="one in answer.features" :key="one.title"><b>{{ one.title }}:</b>
              {{ one.is_shown ? 'yes' : 'no' }}. <span class="quiet">{{ one.words }}</span></p>
          </section>
          <section>
            <h2>Beyond, clearly seen overhead without Moon</h2>
            <table>
              <thead><tr><th scope="col">What</th><th scope="col">From {{ answer.place || 'a suburb' }}</th>
                <th scope="col">From a dark place</th><th scope="col">As what</th></tr></thead>
              <tbody><tr v-for="one in answer.classes" :key="one.title">
                <th scope="row">{{ one.title }}</th><td class="figures">{{ one.here }}</td>
                <td class="figures">{{ one.dark }}</td><td>{{ one.words }}</td></tr></tbody>
            </table>
          </section>
          <section>
            <h2>Things you have heard of</h2>
            <table>
              <thead><tr><th scope="col">Target</th><th scope="col">Here</th><th scope="col">Dark place</th>
                <th scope="col">What you will see</th></tr></thead>
              <tbody><tr v-for="one in answer.examples" :key="one.label">
                <th scope="row">{{ one.label }}</th><td>{{ one.here }}</td><td>{{ one.dark }}</td>
                <td>{{ one.expected }}</td></tr></tbody>
            </table>
          </section>
        </div>
      </template>
      <p v-else-if="isAsked">Put an eyepiece that fits into the case first; then this page knows.</p>
      <v-progress-linear v-else indeterminate color="primary" aria-label="Looking through the catalogue" />
      <v-btn color="primary" variant="flat" @click="telescopeId = null">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.reach { padding: 24px; display: flex; flex-direction: column; gap: 14px; max-height: 90dvh; }
.list { display: grid; gap: 14px; min-height: 0; }
dl { display: flex; gap: 40px; margin: 0; flex-wrap: wrap; } dt { color: var(--ink-quiet); font-size: 14px; } dd { margin: 0; display: flex; gap: 12px; align-items: baseline; }
.big { font-size: 32px; font-weight: 700; text-decoration: underline dotted; text-decoration-thickness: 2px; text-underline-offset: 5px; min-height: 48px; }
section { border-top: 1px solid var(--line); padding-top: 10px; display: grid; gap: 4px; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: 4px 12px 4px 0; border-top: 1px solid var(--line); vertical-align: top; }
thead th { border-top: 0; color: var(--ink-quiet); font-weight: 400; font-size: 14px; }
@media (max-width: 699px) { .reach { padding: 14px; } th, td { padding-right: 6px; font-size: 14px; } }
</style>
