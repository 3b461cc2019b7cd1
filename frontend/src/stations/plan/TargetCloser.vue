<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useSums } from '@/shell/sums'
import { clockTime } from '@/shell/time'
import { useNoting } from '@/stores/noting'
import { usePlan } from '@/stores/plan'
import { useTarget } from '@/stores/target'
import { useTonight } from '@/stores/tonight'
import FindingPath from './FindingPath.vue'

/** One target told whole: what will be seen, through which glass, and what would help. */
const props = defineProps<{ zone: string }>()
defineEmits<{ close: [] }>()
const store = useTonight()
const sums = useSums()
const noting = useNoting()
const target = useTarget()
const router = useRouter()
const plan = usePlan()
const planKey = computed(() => one.value?.target.key ?? '')
const closer = computed(() => store.chosen)
const one = computed(() => closer.value?.prospect ?? null)
const sight = computed(() => one.value?.sight ?? null)
const at = (utc: string | null | undefined) => clockTime(utc, props.zone)
const size = computed(() => !sight.value ? '' : sight.value.diameter_arcsec >= 120
  ? `${(sight.value.diameter_arcsec / 60).toFixed(1)}′` : `${sight.value.diameter_arcsec.toFixed(1)}″`)
const place = computed(() => one.value && (one.value.altitude_deg > 0 && !one.value.is_hidden
  ? `${one.value.altitude_deg.toFixed(0)}° ${one.value.direction}` : one.value.altitude_deg > 0 ? 'behind your skyline' : 'below the horizon'))
function note () {
  noting.target = one.value?.target.label ?? ''
  noting.begin()
}
async function lookAt () {
  await target.choose(one.value!.target.key)
  await router.push('/powers')
}
</script>

<template>
  <aside class="told" :aria-label="one ? `About ${one.target.label}` : 'About this target'">
    <p v-if="store.chosenRefusal" role="alert">{{ store.chosenRefusal.words }}</p>
    <v-progress-linear v-else-if="!closer || !one" indeterminate color="primary" aria-label="Working it out" />
    <template v-else>
      <header>
        <div><h2>{{ one.target.label }}</h2>
          <p class="quiet small">{{ one.target.detail }}{{ one.target.constellation ?
            `, ${one.target.constellation}` : '' }}</p></div>
        <v-btn variant="text" @click="$emit('close')">Back to the list</v-btn>
      </header>
      <p v-if="sight?.refused" role="alert" class="sun-frame"><b>{{ sight.from_sun_deg.toFixed(0) }}° from the Sun,
        which
        is up: do not aim there.</b></p>
      <p class="expected">{{ one.expected }}</p>
      <!-- above what comes later: nothing moves under a finger -->
      <div class="buttons">
        <v-btn v-if="one.when !== 'not tonight' && !plan.has(planKey)" color="primary" variant="flat"
          @click="plan.add([planKey])">Add to tonight</v-btn>
        <v-btn @click="lookAt">See it in the field</v-btn>
        <v-btn :aria-label="`Note an observation of ${one.target.label}`" @click="note">Note</v-btn>
      </div>
      <FindingPath v-if="one.when !== 'not tonight'" :target-key="one.target.key"
        :at-utc="store.atUtc ?? one.best_utc ?? store.tonight!.at_utc" />
      <dl>
        <dt>Visibility</dt>
        <dd><button v-if="closer.sum" type="button" class="link-button inline"
          @click="sums.open = closer.sum">{{ one.word }}</button><b v-else>{{ one.word }}</b></dd>
        <template v-if="one.best_utc"><dt>Best</dt>
          <dd class="figures">{{ at(one.best_utc) }}<template v-if="one.best_altitude_deg">,
            {{ one.best_altitude_deg.toFixed(0) }}° up</template></dd></template>
        <dt>{{ at(store.tonight?.at_utc) }}</dt>
        <dd><button v-if="sight" type="button" class="link-button inline figures"
          @click="sums.open = sight.place_sum">{{ place }}</button><span v-else class="figures">{{ place }}</span></dd>
        <template v-if="sight"><dt>Across</dt>
          <dd><button type="button" class="link-button inline figures" aria-label="How far across"
            @click="sums.open = sight.size_sum">{{ size }}</button></dd></template>
      </dl>
      <p>{{ closer.light_words || one.reason }} <template v-if="closer.help_words">{{ closer.help_words
        }}</template></p>
      <p v-if="sight?.glass && one.when !== 'not tonight'">Start {{ sight.glass.start_label }}, climb to
        <button type="button" class="link-button inline" @click="sums.open = sight.glass_sum ?? null">{{
          sight.glass.top.label }} ({{ sight.glass.top.magnification.toFixed(0) }}×)</button><template
          v-if="sight.glass.detail">, in detail <button type="button" class="link-button inline"
          @click="sums.open = sight.detail_sum ?? null">{{ sight.glass.detail.label }}
          ({{ sight.glass.detail.magnification.toFixed(0) }}×)</button></template>. {{ sight.glass.top.reason }}</p>
      <ul v-else-if="closer.rungs.length" class="rungs" aria-label="Every rung's word">
        <li v-for="rung in closer.rungs" :key="rung.key" :class="{ named: rung.is_named }">
          <span class="figures">{{ rung.magnification.toFixed(0) }}×</span><span>{{ rung.label }}</span><b>{{
            rung.word }}</b>
          <span class="small quiet">{{ rung.is_named ? 'this one' : '' }}</span></li>
      </ul>
      <router-link v-else-if="!store.answer?.prospects.some(p => p.rung_key)" to="/kit">Add a telescope and an
        eyepiece to know the
        glass.</router-link>
    </template>
  </aside>
</template>

<style scoped>
.told { display: flex; flex-direction: column; gap: 10px; padding: 0 0 16px; }
header { display: flex; justify-content: space-between; align-items: start; }
.expected { font-size: 20px; font-weight: 600; line-height: 1.3; }
dl { display: grid; grid-template-columns: 92px 1fr; gap: 2px 12px; margin: 0; align-items: baseline; }
dt { color: var(--ink-quiet); font-size: 14px; } dd { margin: 0; }
.inline { padding: 0; min-height: max(28px, var(--least)); }
.rungs { list-style: none; margin: 0; padding: 0; }
.rungs li { display: grid; grid-template-columns: 56px 1fr 108px 64px; gap: 8px; border-top: 1px solid var(--line); padding: 5px 4px; font-size: 15px; align-items: baseline; }
.named { background: var(--jade-wash); }
.buttons { display: flex; gap: 10px; flex-wrap: wrap; }
@media (max-width: 1023px) { .inline { min-height: 48px; } }
</style>
