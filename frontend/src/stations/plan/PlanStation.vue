<script setup lang="ts">
import { computed, onMounted, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useKept } from '@/shell/kept'
import { lazily } from '@/shell/lazily'
import { useTonight } from '@/stores/tonight'
import TonightTab from './TonightTab.vue'

const CalendarTab = lazily(() => import('./CalendarTab.vue'))
const WeatherTab = lazily(() => import('./WeatherTab.vue'))
const PlaceTab = lazily(() => import('./PlaceTab.vue'))

defineEmits<{ evening: [] }>()
const route = useRoute()
const store = useTonight()
const TABS = { tonight: 'Tonight', weather: 'Weather', calendar: 'Calendar', place: 'Place' } as const
const tab = useKept<keyof typeof TABS>('plan-tab', 'tonight')
const isFinding = computed(() => route.query.find !== undefined)
const wished = computed(() => route.query.tab)
watch(isFinding, now => { if (now) tab.value = 'tonight' }, { immediate: true })
watch(wished, now => { if (typeof now === 'string' && now in TABS) tab.value = now as keyof typeof TABS }, { immediate: true })
onMounted(store.load)
</script>

<template>
  <section v-if="store.tonight" class="plan">
    <header class="head">
      <h1 class="sr-only">Plan</h1>
      <v-btn-toggle role="group" v-model="tab" mandatory divided variant="outlined" aria-label="What to plan">
        <v-btn v-for="(word, name) in TABS" :key="name" :value="name">{{ word }}</v-btn>
      </v-btn-toggle>
      <div id="plan-head" class="extra" />
    </header>
    <TonightTab v-if="tab === 'tonight'" :find="isFinding" :find-again="route.fullPath" />
    <CalendarTab v-else-if="tab === 'calendar'" @tonight="tab = 'tonight'" />
    <WeatherTab v-else-if="tab === 'weather'" />
    <PlaceTab v-else />
  </section>
  <section v-else class="empty">
    <p v-if="store.refusal" role="alert">{{ store.refusal.words }}</p>
    <v-progress-linear v-else-if="!store.isAsked" indeterminate color="primary" aria-label="Working out the night" />
    <template v-else>
      <svg viewBox="0 0 160 80" width="220" aria-hidden="true"><path d="M4 72h152M20 72V52l18-14 18 14v20" /><path
        d="M112 18a16 16 0 1 0 14 24 13 13 0 0 1-14-24z" /></svg>
      <h1>Where do you observe?</h1>
      <p>A name, latitude and longitude are enough to say what is up tonight and when it gets dark.</p>
      <v-btn color="primary" variant="flat" @click="$emit('evening')">Choose your place</v-btn>
    </template>
  </section>
</template>

<style scoped>
.plan { height: 100%; padding: 10px 20px 0; display: flex; flex-direction: column; gap: 10px; min-height: 0; }
.plan > :not(.head) { flex: 1 1 0; min-height: 0; }
.head { display: flex; gap: 16px; align-items: center; flex: none; }
.extra { flex: 1; display: flex; gap: 12px; align-items: center; min-width: 0; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
@media (max-width: 699px) { .plan { padding: 8px 12px 0; } .head { flex-wrap: wrap; gap: 8px; } .extra { flex: 1 0 100%; flex-wrap: wrap; gap: 4px 8px; } }
</style>
