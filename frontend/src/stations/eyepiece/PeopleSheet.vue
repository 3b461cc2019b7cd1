<script setup lang="ts">
import { computed } from 'vue'
import SideSheet from '@/shell/SideSheet.vue'
import { useEyepiece } from '@/stores/eyepiece'

/** Whose turn it is, who waits, what each needs, and manners for guests. */
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ white: [personId: number | null] }>()
const store = useEyepiece()
const queue = computed(() => store.screen?.queue)
const hint = computed(() => queue.value?.now)
const hints = computed(() => [hint.value?.focus, hint.value?.glasses, hint.value?.guard, hint.value?.reach].filter(Boolean))
const eyes = (id: number | null | undefined) => store.screen?.everybodys_eyes.find(one => one.person_id === id)?.words ?? ''
const people = computed(() => store.screen?.people ?? [])
const waiting = computed(() => (queue.value?.next_ids ?? []).map(id => people.value.find(one => one.id === id)).filter(one => !!one))
const others = computed(() => people.value.filter(one => one.id !== store.screen?.person?.id && !waiting.value.includes(one)))
const firstName = computed(() => store.screen?.person?.name.split(' ')[0] ?? '')
const join = (id: number | null | undefined) => { if (id) store.queue([...queue.value?.next_ids ?? [], id]) }
const leave = (id: number | null | undefined) => store.queue((queue.value?.next_ids ?? []).filter(one => one !== id))
</script>

<template>
  <SideSheet v-model="isOpen" title="At the eyepiece">
    <section v-if="store.screen?.person" class="now">
      <h2>{{ store.screen.person.name }} looks</h2>
      <p v-for="words in hints" :key="words">{{ words }}</p>
      <p class="small quiet">{{ eyes(store.screen.person.id) }}</p>
      <v-btn size="small"
        @click="emit('white', store.screen.person.id ?? null)">{{ firstName }} saw white light</v-btn>
    </section>
    <p v-else-if="people.length">Nobody is said to be looking. Who is it?</p>
    <p v-else>Nobody is known yet: <router-link to="/kit">name the people in the kit</router-link>.</p>
    <section v-if="waiting.length">
      <h2>In the queue</h2>
      <p v-if="queue?.words" class="small">{{ queue.words }}</p>
      <div v-for="one in waiting" :key="one.id ?? 0" class="person">
        <span><b>{{ one.name }}</b><br><span class="small quiet">{{ eyes(one.id) }}</span></span>
        <v-btn size="small" color="primary" variant="flat" @click="store.turn(one.id!)">Looks now</v-btn>
        <v-btn size="small" variant="text" @click="leave(one.id)">Leaves</v-btn>
      </div>
    </section>
    <section v-if="others.length">
      <h2>Also here</h2>
      <div v-for="one in others" :key="one.id ?? 0" class="person">
        <span><b>{{ one.name }}</b><br><span class="small quiet">{{ eyes(one.id) }}</span></span>
        <v-btn size="small" @click="store.turn(one.id!)">Looks now</v-btn>
        <v-btn size="small" @click="join(one.id)">Queues</v-btn>
      </div>
    </section>
    <v-btn size="small" @click="emit('white', null)">Everybody saw white light</v-btn>
    <section class="manners">
      <h2>For guests and children</h2>
      <ul><li v-for="one in queue?.manners ?? []" :key="one">{{ one }}</li></ul>
    </section>
  </SideSheet>
</template>

<style scoped>
.now { display: grid; gap: 6px; border-left: 5px solid var(--jade); padding-left: 12px; justify-items: start; }
.person { display: grid; grid-template-columns: 1fr auto auto; gap: 6px; align-items: center; border-top: 1px solid var(--line); padding: 8px 0; }
.manners ul { margin: 6px 0 0; padding-left: 20px; display: grid; gap: 6px; }
</style>
