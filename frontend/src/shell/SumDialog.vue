<script setup lang="ts">
import { useSums } from './sums'
import { useEscape } from './useEscape'

const sums = useSums()
useEscape(() => sums.open !== null, () => { sums.open = null })
const SURE = {
  exact: 'Exact for the values given.',
  about: 'About right: an input is estimated.',
  estimate: 'An estimate.',
}
</script>

<template>
  <v-dialog :model-value="sums.open !== null" max-width="560" aria-label="How this is worked out" @update:model-value="sums.open = null">
    <v-card v-if="sums.open" class="sum">
      <h1>{{ sums.open.title }}: <span class="figures">{{ sums.open.result }}</span></h1>
      <dl>
        <dt>Formula</dt><dd>{{ sums.open.formula }}</dd>
        <dt>Your values</dt><dd class="figures">{{ sums.open.worked }} = {{ sums.open.result }}</dd>
        <dt>How sure</dt><dd>{{ SURE[sums.open.sureness] }} {{ sums.open.note }}</dd>
        <dt>Source</dt><dd>{{ sums.open.source }}</dd>
      </dl>
      <v-btn color="primary" variant="flat" autofocus @click="sums.open = null">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sum { padding: 24px; display: grid; gap: 16px; }
dl { display: grid; grid-template-columns: 104px 1fr; gap: 12px; margin: 0; }
dt { color: var(--ink-quiet); }
dd { margin: 0; }
@media (max-width: 699px) { dl { grid-template-columns: 1fr; gap: 4px; } dd { margin-bottom: 10px; } }
</style>
