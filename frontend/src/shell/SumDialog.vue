<script setup lang="ts">
import PageDialog from './PageDialog.vue'
import { shallowRef, watch } from 'vue'
import { ruleHtml } from './rules'
import { useSums } from './sums'

const sums = useSums()
const SURE = {
  exact: 'Exact for the values given.',
  about: 'About right: an input is estimated.',
  estimate: 'An estimate.',
}
/** The section of docs/rules.md behind the figure; our own text, shipped with the page. */
const rule = shallowRef<string | null>(null)
watch(() => sums.open, () => { rule.value = null })
async function readRule () {
  const asked = sums.open
  const html = asked && await ruleHtml(asked.rule).catch(() => null)
  if (sums.open === asked) rule.value = html ?? '<p>It cannot be read now.</p>'
}
</script>

<template>
  <PageDialog
    :model-value="sums.open !== null" max-width="600" scrollable aria-label="How this is worked out"
    @update:model-value="sums.open = null"
  >
    <v-card v-if="sums.open" class="sum">
      <h1>{{ sums.open.title }}: <span class="figures">{{ sums.open.result }}</span></h1>
      <div class="body scroll-y">
        <dl>
          <dt>Formula</dt><dd>{{ sums.open.formula }}</dd>
          <dt>Your values</dt><dd class="figures">{{ sums.open.worked }} = {{ sums.open.result }}</dd>
          <dt>How sure</dt><dd>{{ SURE[sums.open.sureness] }} {{ sums.open.note }}</dd>
          <dt>Source</dt><dd>{{ sums.open.source }}</dd>
        </dl>
        <!-- eslint-disable-next-line vue/no-v-html -- the text ships with the page -->
        <section v-if="rule" class="rule small" aria-label="The rule" v-html="rule" />
        <button v-else type="button" class="link-button" @click="readRule">Read the rule</button>
      </div>
      <v-btn color="primary" variant="flat" autofocus @click="sums.open = null">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.sum { padding: 24px; display: flex; flex-direction: column; gap: 16px; max-height: 90dvh; }
.body { display: grid; gap: 12px; min-height: 0; }
dl { display: grid; grid-template-columns: 104px 1fr; gap: 12px; margin: 0; }
dt { color: var(--ink-quiet); }
dd { margin: 0; }
.link-button { justify-self: start; padding: 0; }
.rule { border-left: 5px solid var(--line); padding-left: 14px; }
.rule :deep(p) { margin: 0 0 8px; }
.rule :deep(code) { font-family: inherit; font-size: 0.86em; letter-spacing: 0.02em; color: var(--ink-quiet); overflow-wrap: anywhere; }
@media (max-width: 699px) { dl { grid-template-columns: 1fr; gap: 4px; } dd { margin-bottom: 10px; } }
</style>
