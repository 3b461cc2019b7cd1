<script setup lang="ts">
import { ref, watch } from 'vue'
import { call, Refusal, type Schema } from '@/api/client'

const isOpen = defineModel<boolean>({ required: true })
const ladders = ref<Schema<'Ladder'>[]>([])
const refusal = ref<Refusal | null>(null)
watch(isOpen, async now => {
  if (!now) return
  try {
    ladders.value = await call<Schema<'Ladder'>[]>('/powers/ladders')
    refusal.value = null
  } catch (error) {
    refusal.value = error as Refusal
  }
})
</script>

<template>
  <v-dialog v-model="isOpen" max-width="820" scrollable aria-label="What fits">
    <v-card class="fit">
      <h1>What fits into what</h1>
      <p class="quiet">A smaller barrel fits a bigger one by an adapter, never the other way round.</p>
      <p v-if="refusal" role="alert">{{ refusal.problem.detail }}</p>
      <div class="list scroll-y">
        <section v-for="ladder in ladders" :key="ladder.telescope_id ?? 0">
          <h2>{{ ladder.telescope_name }}</h2>
          <p><b>Fits:</b> {{ ladder.rungs.map(rung => rung.label).join(', ') || 'nothing yet' }}</p>
          <p v-for="misfit in ladder.misfits" :key="misfit.reason" class="no"><b>Not {{ misfit.labels.join(', ') }}:</b> {{ misfit.reason }}</p>
          <p v-if="!ladder.amplifiers_on" class="quiet small">Amplifiers are off for this telescope.</p>
        </section>
      </div>
      <v-btn color="primary" variant="flat" @click="isOpen = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fit { padding: 24px; display: flex; flex-direction: column; gap: 14px; max-height: 90dvh; }
.list { display: grid; gap: 14px; min-height: 0; }
section { border-top: 1px solid var(--line); padding-top: 10px; display: grid; gap: 4px; }
.no { background: var(--brass-wash); padding: 6px 10px; border-radius: 8px; }
</style>
