<script setup lang="ts">
import { computed } from 'vue'
import { clockTime } from '@/shell/time'
import type { Prospect } from '@/stores/tonight'

/** One target in one line: name, kind, the word for it, the reason, when. */
const props = defineProps<{ prospect: Prospect, zone: string, isChosen: boolean, isNarrow: boolean }>()
defineEmits<{ choose: [] }>()
const at = (utc: string | null) => clockTime(utc, props.zone)
const when = computed(() => props.prospect.when === 'not tonight' || !props.prospect.from_utc
  ? '' : `${at(props.prospect.from_utc)}–${at(props.prospect.until_utc)}`)
const sight = computed(() => props.prospect.sight)
</script>

<template>
  <article :class="{ chosen: isChosen, narrow: isNarrow }">
    <button type="button" class="line plain-button" :aria-pressed="isChosen" @click="$emit('choose')">
      <b class="name">{{ prospect.target.label }}<span v-if="prospect.is_noted" class="quiet small noted">
        noted</span></b>
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
.line { display: grid; grid-template-columns: minmax(110px, 1.1fr) 132px 108px minmax(0, 2fr) 100px; gap: 10px; align-items: center; width: 100%; min-height: 44px; padding: 4px 8px; font-size: 15px; }
.line:focus-visible { outline-offset: -3px; }
.chosen { background: var(--jade-wash); box-shadow: inset 5px 0 0 var(--jade); }
.when { font-size: 14px; letter-spacing: -0.03em; text-align: right; white-space: nowrap; }
.noted { font-weight: 400; }
.hazard { color: var(--sun); }
.narrow .line { grid-template-columns: minmax(0, 1fr) 96px minmax(0, 1.6fr) 96px; }
.narrow .kind { display: none; }
@media (max-width: 1023px) {
  .line, .narrow .line { grid-template-columns: minmax(0, 1fr) auto; min-height: 56px; gap: 0 10px; }
  .kind, .narrow .kind { display: inline; order: 3; font-size: 14px; }
  .word { order: 2; text-align: right; }
  .when { order: 4; }
  .reason { order: 5; grid-column: 1 / -1; font-size: 14px; }
}
</style>
