<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import NumberField from '@/shell/NumberField.vue'
import ShadowAim from '@/drawings/dials/ShadowAim.vue'
import { useTopics } from '@/stores/events'
import { useAttempt } from '@/shell/useAsked'
import { useEvening } from '@/stores/evening'
import { clockTime } from '@/shell/time'
import { useUnits } from '@/stores/units'
import { useAdvice } from './advice'
import { useDraft } from '@/shell/drafts'
import { stepDraft } from './drafts'
import type { Bench } from '@/stores/bench'

/** A solar session: every check by hand, then aiming by the tube's shadow. */
const props = defineProps<{ bench: Bench }>()
const evening = useEvening()
const units = useUnits()
const board = shallowRef<Schema<'SolarBoard'> | null>(null)
const { refusal, attempt } = useAttempt()
const done = ref<string[]>([])
const filterId = ref<number | null>(null)
const { values, forget } = useDraft(() => stepDraft(props.bench, 'solar'), () => ({ shadow_length_mm: '', shadow_width_mm: '' }))
const shadow = computed(() => values.value as { shadow_length_mm: string, shadow_width_mm: string })
const isOpen = computed(() => board.value?.session != null)
const { advice: aim, refusal: aimRefusal } = useAdvice<Schema<'ShadowAdvice'>>(
  'solar/shadow', () => isOpen.value && shadow.value.shadow_length_mm.trim() && shadow.value.shadow_width_mm.trim() ? shadow.value : null,
)

async function ask (path = '', json?: object) {
  const answer = await attempt(() => call<Schema<'SolarBoard'>>(`/setup/solar${path}`, path || json ? { method: 'POST', json } : {}))
  if (!answer) return
  board.value = answer
  filterId.value ??= answer.filters[0]?.id ?? null
}
const end = () => ask('/close')
const MEASURE = 'Hold a sheet square to the tube, measure its shadow and type both.'
// what ended a session, or another filter, makes every check void: each is done anew
watch([isOpen, filterId], () => { if (!isOpen.value) done.value = [] })
// a shadow was that of its moment: another session measures anew
watch(() => board.value?.session?.opened_at_utc, (now, before) => { if (before && now !== before) forget() })
const missing = computed(() => Object.keys(board.value?.checks ?? {}).filter(name => !done.value.includes(name)))
onMounted(() => ask())
useTopics(['session', 'setup', 'kit', 'evening', 'practice', 'clock'], () => void ask())
</script>

<template>
  <section v-if="board" class="solar">
    <p class="sun-frame hazard">{{ board.caution }} {{ board.clock_words }}</p>
    <template v-if="!isOpen">
      <ul v-if="board.forbids.length" class="forbids" role="alert"><li v-for="words in board.forbids"
        :key="words">{{ words }}</li></ul>
      <v-btn v-if="board.wants_drill" size="large" color="primary" variant="flat"
        :to="{ path: '/practice', query: { drill: 'sun' } }" class="to-kit">To the Sun drill</v-btn>
      <v-btn v-else-if="board.forbids.length" size="large" to="/kit" class="to-kit">Filters and inspections are in the
        kit</v-btn>
      <template v-if="!board.forbids.length">
        <v-select v-if="board.filters.length > 1" v-model="filterId" label="Filter in front" :items="board.filters"
          item-title="name" item-value="id" />
        <ol class="checks">
          <li v-for="(words, name) in board.checks" :key="name">
            <label class="check"><input v-model="done" type="checkbox" :value="name"><span>{{ words }}</span></label>
          </li>
        </ol>
        <div class="open">
        <p v-if="board.filters.length === 1"><b>{{ board.filters[0]?.name }}</b>, in front of
          {{ bench.telescope.name }}.</p>
        <v-btn size="large" :disabled="missing.length > 0" color="primary" variant="flat"
          @click="ask('', { filter_id: filterId, done })">
          {{ missing.length ? `${missing.length} checks still to do` : 'Open the solar session' }}
        </v-btn>
        </div>
      </template>
      <p v-if="refusal" role="alert" class="forbids">{{ refusal.words }}</p>
    </template>
    <template v-else>
      <p><b>Open since {{ clockTime(board.session?.opened_at_utc, evening.zone) }}</b>,
        {{ board.session?.filter_name }} on {{ board.session?.telescope_name }}. Somebody stays with it all the
        time.</p>
      <p v-if="aimRefusal" class="forbids" role="alert">{{ aimRefusal.words }}</p>
      <p v-else class="aim" role="status">{{ aim?.instruction ?? MEASURE }}</p>
      <p v-if="aim && !aimRefusal" class="quiet">{{ aim.detail }}</p>
      <ShadowAim v-if="aim" :length-mm="Number(shadow.shadow_length_mm) || 0"
        :width-mm="Number(shadow.shadow_width_mm) || 0" :is-aimed="aim?.is_done ?? false" />
      <form class="fields" novalidate @submit.prevent>
        <NumberField v-model="shadow.shadow_length_mm" label="The shadow is long" unit="mm" measure="hand"
          :error-messages="aimRefusal?.for('shadow_length_mm')" />
        <NumberField v-model="shadow.shadow_width_mm" label="and wide" unit="mm" measure="hand"
          :hint="`About ${units.hand(board.usual_width_mm)} for this tube`"
          :error-messages="aimRefusal?.for('shadow_width_mm')" />
      </form>
      <v-btn size="large" @click="end">Turned away from the Sun, filter still on: end the session</v-btn>
    </template>
  </section>
</template>

<style scoped>
.solar { display: grid; gap: 10px; }
.hazard { font-weight: 700; }
.forbids { border-left: 6px solid var(--sun); padding: 8px 14px 8px 28px; margin: 0; font-size: 18px; }
.open { display: flex; gap: 16px; align-items: center; justify-content: space-between; flex-wrap: wrap; }
.to-kit { justify-self: start; }
.checks { list-style: none; padding: 0; margin: 0; display: grid; }
.check { display: grid; grid-template-columns: 48px 1fr; align-items: center; min-height: 48px; cursor: pointer; border-bottom: 1px solid var(--line); }
.check input { width: 26px; height: 26px; accent-color: var(--jade); }
.aim { font-size: 22px; font-weight: 700; line-height: 1.25; }
</style>
