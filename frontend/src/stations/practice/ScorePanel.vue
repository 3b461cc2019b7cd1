<script setup lang="ts">
import { ref } from 'vue'
import type { Schema } from '@/api/client'

/** How a drill went: three sentences first; every move with what would have been better when it is asked for. */
defineProps<{ score: Schema<'Score'>, isBusy: boolean }>()
const emit = defineEmits<{ again: [] }>()
const showsMoves = ref(false)
</script>

<template>
  <div class="score scroll-y" role="status">
    <h2 class="verdict">{{ score.is_clean ? 'Done, and well done.' : score.is_passed ? 'Done.' : 'Not yet.' }}</h2>
    <ul class="sentences">
      <li v-for="sentence in score.sentences" :key="sentence">{{ sentence }}</li>
    </ul>
    <p v-if="score.quicker" class="quiet">{{ score.quicker }}</p>
    <div class="acts">
      <v-btn color="primary" variant="flat" :loading="isBusy" @click="emit('again')">Another round</v-btn>
      <v-btn v-if="score.replay.length" variant="text" :aria-expanded="showsMoves" @click="showsMoves = !showsMoves">
        {{ showsMoves ? 'Hide the moves' : `Look back at ${score.replay.length} moves` }}</v-btn>
    </div>
    <ol v-if="showsMoves" class="moves">
      <li v-for="one in score.replay" :key="one.number" :class="{ better: one.better }">{{ one.words }}
        <b v-if="one.better">{{ one.better }}</b></li>
    </ol>
  </div>
</template>

<style scoped>
.score { flex: 1 1 0; min-height: 0; display: grid; gap: 14px; align-content: start; max-width: 46em; padding-top: 8px; }
.verdict { font-size: 30px; line-height: 1.2; font-weight: 800; }
.sentences { margin: 0; padding: 0; list-style: none; display: grid; gap: 10px; font-size: 20px; line-height: 1.35; }
.sentences li { border-left: 6px solid var(--jade); padding-left: 12px; }
.acts { display: flex; gap: 10px; flex-wrap: wrap; }
.moves { padding-left: 2em; margin: 0; display: grid; gap: 2px; } .moves b { display: block; color: var(--brass-ink); }
@media (max-width: 699px) { .verdict { font-size: 24px; } .sentences { font-size: 17px; } }
</style>
