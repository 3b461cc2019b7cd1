<script setup lang="ts">
import PageDialog from '@/shell/PageDialog.vue'
import { computed, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'

const isOpen = defineModel<boolean>({ required: true })
const { answer, refusal, load } = useAsked(() => call<Schema<'Ladder'>[]>('/powers/ladders'))
const ladders = computed(() => answer.value ?? [])
/** The rungs of a ladder gathered by the adapters they go through. */
function ways (ladder: Schema<'Ladder'>) {
  const found = new Map<string, string[]>()
  for (const rung of ladder.rungs) {
    const through = rung.adapters.length ? `Through ${rung.adapters.join(' and ')}` : 'Fits as it is'
    found.set(through, [...found.get(through) ?? [], rung.label])
  }
  return [...found].map(([through, labels]) => ({ through, labels }))
}
watch(isOpen, now => { if (now) void load() }, { immediate: true })
</script>

<template>
  <PageDialog v-model="isOpen" max-width="820" scrollable aria-label="What fits">
    <v-card class="fit">
      <h1>What fits into what</h1>
      <p class="quiet">A smaller barrel fits a bigger one by an adapter, never the other way round.</p>
      <p v-if="refusal" role="alert">{{ refusal.words }}</p>
      <div class="list scroll-y" tabindex="0" role="region" aria-label="What fits, telescope by telescope">
        <section v-for="ladder in ladders" :key="ladder.telescope_id ?? 0">
          <h2>{{ ladder.telescope_name }}</h2>
          <p v-for="way in ways(ladder)" :key="way.through"><b>{{ way.through }}:</b> {{ way.labels.join(', ') }}</p>
          <p v-if="!ladder.rungs.length">Nothing yet.</p>
          <p v-for="misfit in ladder.misfits" :key="misfit.reason" class="no"><b>Not
            {{ misfit.labels.join(', ') }}:</b> {{ misfit.reason }}</p>
          <p v-if="!ladder.amplifiers_on" class="quiet small">Amplifiers are off for this telescope.</p>
        </section>
      </div>
      <v-btn color="primary" variant="flat" @click="isOpen = false">Close</v-btn>
    </v-card>
  </PageDialog>
</template>

<style scoped>
.fit { padding: 24px; display: flex; flex-direction: column; gap: 14px; max-height: 90dvh; }
.list { display: grid; gap: 14px; min-height: 0; }
section { border-top: 1px solid var(--line); padding-top: 10px; display: grid; gap: 4px; }
.no { background: var(--brass-wash); padding: 6px 10px; border-radius: 8px; }
</style>
