<script setup lang="ts">
import { onMounted } from 'vue'
import { call, type Schema } from '@/api/client'
import { dateWords } from './time'
import { useAsked, useAttempt } from './useAsked'

/** A database that was found damaged: where it lies, and the last good copy, until somebody has decided. */
const { answer: damage, load } = useAsked(() => call<Schema<'Damage'> | null>('/journal/everything/damage'), ['journal'])
const { once, refusal, isBusy } = useAttempt()
onMounted(load)
const settle = (take: 'copy' | 'anew') => once(() => call<void>('/journal/everything/damage', { method: 'POST', json: { take } }))
const day = (text: string) => dateWords(`${text}T12:00:00Z`, 'UTC')
</script>

<template>
  <section v-if="damage" class="damage" role="alert" aria-label="Damaged database">
    <p><b>The database was damaged and has been laid aside.</b> Nothing of it is lost that can still be read: it lies in
      <span class="path">{{ damage.folder }}</span> (found: {{ damage.why }}).</p>
    <p v-if="damage.copy_day">The last good copy is of {{ day(damage.copy_day) }}. What you enter before you decide is
      kept in a folder of its own.</p>
    <p v-else>There is no good copy to put back.</p>
    <p v-if="refusal" class="small">{{ refusal.words }}</p>
    <div class="acts">
      <v-btn v-if="damage.copy_day" color="primary" variant="flat" :loading="isBusy" @click="settle('copy')">Put that
        copy back</v-btn>
      <v-btn variant="outlined" :disabled="isBusy" @click="settle('anew')">Go on without it</v-btn>
    </div>
  </section>
</template>

<style scoped>
.damage { background: var(--brass-wash); padding: 12px 16px; display: grid; gap: 6px; flex: none !important; max-height: 50dvh; overflow-y: auto; }
.path { font-family: var(--figures); font-size: 14px; overflow-wrap: anywhere; }
.acts { display: flex; gap: 12px; flex-wrap: wrap; }
</style>
