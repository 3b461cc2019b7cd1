<script setup lang="ts">
import { computed } from 'vue'
import { clockTime } from '@/shell/time'
import type { Prospect } from '@/stores/tonight'

/** One target in one line: name, kind, the word for it, the reason, when. */
const props = defineProps<{ prospect: Prospect, zone: string, isPlanned: boolean }>()
defineEmits<{ choose: [] }>()
const at = (utc: string | null) => clockTime(utc, props.zone)
const when = computed(() => props.prospect.when === 'not tonight' || !props.prospect.from_utc
  ? '' : `${at(props.prospect.from_utc)}–${at(props.prospect.until_utc)}`)
const sight = computed(() => props.prospect.sight)
</script>

<template>
  <article>
    <button type="button" class="line plain-button" @click="$emit('choose')">
      <b class="name">{{ prospect.target.label }}<span v-if="isPlanned || prospect.is_noted"
        class="quiet small noted"> {{ isPlanned ? 'planned' : 'noted' }}</span></b>
      <span class="kind quiet">{{ prospect.target.kind }}<template
        v-if="sight && (prospect.target.kind === 'moon' || sight.lit_percent < 95)">,
        {{ sight.lit_percent.toFixed(0) }} %</template></span>
      <b class="word">{{ prospect.word }}</b>
      <span class="reason">
        <b v-if="sight?.refused" class="hazard">{{ sight.from_sun_deg.toFixed(0) }}° from the Sun: do not aim there.</b>
        {{ prospect.reason }}</span>
      <span class="when figures">{{ when }}</span>
    </button>
  </article>
</template>

<style scoped>
article { border-top: 1px solid var(--line); }
.line { display: grid; grid-template-columns: minmax(110px, 1.1fr) 106px 96px minmax(0, 1.7fr) 98px; gap: 8px; align-items: center; width: 100%; min-height: max(44px, var(--least)); padding: 4px 8px; font-size: 15px; }
.line:focus-visible { outline-offset: -3px; }
.when { font-size: 14px; letter-spacing: -0.03em; text-align: right; white-space: nowrap; }
.noted { font-weight: 400; margin-left: 6px; }
.hazard { color: var(--sun); }
@media (max-width: 1023px) {
  .line { grid-template-columns: minmax(0, 1fr) auto; min-height: 56px; gap: 0 10px; }
  .kind { display: inline; order: 3; font-size: 14px; }
  .word { order: 2; text-align: right; }
  .when { order: 4; }
  .reason { order: 5; grid-column: 1 / -1; font-size: 14px; }
}
</style>
