<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import SkyStrip from '@/drawings/SkyStrip.vue'
import SunNotice from '@/shell/SunNotice.vue'
import { useEvening } from '@/stores/evening'
import { useTonight } from '@/stores/tonight'
import { clockTime } from '@/shell/time'
import NightLine from './NightLine.vue'
import TargetRow from './TargetRow.vue'

defineEmits<{ evening: [] }>()
const evening = useEvening()
const route = useRoute()
const store = useTonight()
const tonight = computed(() => store.answer)
const find = ref('')
const findField = ref<{ focus: () => void } | null>(null)

const GROUPS = [
  { when: 'now', title: 'Now' },
  { when: 'later', title: 'Later' },
  { when: 'not tonight', title: 'Not tonight, and why' },
] as const
const groups = computed(() => GROUPS.map(group => ({
  ...group,
  sights: (tonight.value?.sights ?? []).filter(sight => sight.when === group.when
    && sight.target.label.toLowerCase().includes(find.value.trim().toLowerCase())),
})).filter(group => group.sights.length))

async function focusFind () {
  if (route.query.find === undefined) return
  await nextTick()
  findField.value?.focus()
}
onMounted(async () => {
  await store.load()
  await focusFind()
})
watch(() => route.fullPath, focusFind)
</script>

<template>
  <section v-if="tonight" class="plan scroll-y">
    <header class="head">
      <h1>Tonight</h1>
      <p class="quiet">
        Directions hold for {{ clockTime(tonight.at_utc, evening.zone) }}{{ tonight.at_is_now ? ', now' : '' }}.
      </p>
      <v-text-field ref="findField" v-model="find" label="Find a target" density="compact" class="find" clearable
        @click:clear="find = ''" />
    </header>
    <NightLine :night="tonight.night" :zone="evening.zone" />
    <SunNotice v-if="tonight.sun_now.is_up" role="alert" :altitude-deg="tonight.sun_now.altitude_deg"
      :azimuth-deg="tonight.sun_now.azimuth_deg"
      :until-utc="tonight.sun_now.up_until_utc" :caution="tonight.sun_now.words"
      :zone="evening.zone" />
    <SkyStrip :sights="tonight.sights" :sun="tonight.sun" />
    <section v-for="group in groups" :key="group.when" class="group" :aria-label="group.title">
      <h2>{{ group.title }}</h2>
      <TargetRow v-for="sight in group.sights" :key="sight.target.key" :sight="sight" :zone="evening.zone" />
    </section>
    <p v-if="!groups.length" class="quiet">Nothing of that name among Moon and planets.</p>
  </section>
  <section v-else class="empty">
    <p v-if="store.refusal" role="alert">{{ store.refusal.words }}</p>
    <v-progress-linear v-else-if="!store.isAsked" indeterminate color="primary" aria-label="Working out the night" />
    <template v-else>
      <svg viewBox="0 0 160 80" width="220" aria-hidden="true"><path d="M4 72h152M20 72V52l18-14 18 14v20" /><path
        d="M112 18a16 16 0 1 0 14 24 13 13 0 0 1-14-24z" /></svg>
      <h1>Where do you observe?</h1>
      <p>A name, latitude and longitude are enough to say what is up tonight and when it gets dark.</p>
      <v-btn color="primary" variant="flat" size="large" @click="$emit('evening')">Choose your place</v-btn>
    </template>
  </section>
</template>

<style scoped>
.plan { height: 100%; padding: 10px 20px 20px; display: flex; flex-direction: column; gap: 10px; }
.head { display: flex; gap: 16px; align-items: center; flex-wrap: wrap; }
.head p { flex: 1; }
.find { max-width: 220px; min-width: 160px; }
@media (max-width: 699px) { .plan { padding: 8px 12px 16px; } .head p { flex: 1 0 100%; order: 3; } .find { margin-left: auto; } }
.group h2 { color: var(--ink-quiet); font-size: 14px; padding: 6px 0 2px; }
.empty { height: 100%; display: grid; align-content: center; justify-items: center; gap: 14px; padding: 24px; text-align: center; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
</style>
