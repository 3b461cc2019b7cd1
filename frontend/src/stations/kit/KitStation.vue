<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import type { Schema } from '@/api/client'
import { go } from '@/router'
import { useEvening } from '@/stores/evening'
import { lazily, onceOpen } from '@/shell/lazily'
import { useNotices } from '@/shell/notices'
import type { Opened } from './KitSheet.vue'
import { toldKit } from './kitImport'
import OpenCase from './OpenCase.vue'
import SmallParts from './SmallParts.vue'
import TelescopeShelf from './TelescopeShelf.vue'
import { useKit } from '@/stores/kit'

const MoreMenu = lazily(() => import('./MoreMenu.vue'))
const KitSheet = lazily(() => import('./KitSheet.vue'))
const BoxSheet = lazily(() => import('./BoxSheet.vue'))
const LabelCheck = lazily(() => import('./LabelCheck.vue'))
const FitDialog = lazily(() => import('./FitDialog.vue'))
const ImportDialog = lazily(() => import('@/shell/ImportDialog.vue'))
defineEmits<{ evening: [] }>()
const kit = useKit()
const evening = useEvening()
const notices = useNotices()
const opened = ref<Opened | null>(null)
const boxIsOpen = ref(false)
const importIsOpen = ref(false)
const labelIsOpen = ref(false)
const fitIsOpen = ref(false)
const more = ref<{ $el: HTMLElement } | null>(null)
const moreIsOpen = ref(false)
const moreIsWanted = onceOpen(() => moreIsOpen.value)
const sheetIsWanted = onceOpen(() => opened.value !== null)
const boxIsWanted = onceOpen(() => boxIsOpen.value)
const importIsWanted = onceOpen(() => importIsOpen.value)
const labelIsWanted = onceOpen(() => labelIsOpen.value)
const fitIsWanted = onceOpen(() => fitIsOpen.value)
const chosenId = computed(() => evening.evening?.telescope?.id ?? null)

/** The one thing to do next on the way from nothing to the ladder. */
const next = computed(() => {
  if (!kit.owned) return null
  if (!kit.owned.telescope.length) return { words: 'Put your first telescope on the bench', act: () => { boxIsOpen.value = true } }
  if (!kit.owned.eyepiece.length) return { words: 'Add your first eyepiece', act: () => add('eyepiece') }
  return null
})
function add (kind: Opened['kind']) {
  opened.value = { kind, item: null }
}
function openDue (due: Schema<'Due'>) {
  const { item_kind: kind, item_id: id } = due.upkeep
  opened.value = { kind, item: kit.owned?.[kind].find(item => item.id === id) ?? null }
}
async function loadDemo () {
  await kit.loadDemo().catch((error: Error) => notices.say(error.message))
}
/** Where nothing is stored yet the keys stand on the one thing to do. */
const begin = ref<{ $el: HTMLElement } | null>(null)
watch(begin, now => { if (now && document.activeElement === document.body) now.$el.focus() }, { flush: 'post' })
onMounted(() => kit.load())
</script>

<template>
  <section class="kit scroll-y">
    <header class="head">
      <h1>Kit</h1>
      <p v-if="next && !kit.isEmpty" class="next">Next: <button type="button" class="link-button"
        @click="next.act()">{{ next.words }}</button></p>
      <p v-else-if="kit.owned && !kit.isEmpty" class="next quiet">Click a piece to change it.</p>
      <span class="space" />
      <template v-if="!kit.isEmpty">
        <v-btn @click="add('telescope')">Add telescope</v-btn>
        <v-btn color="primary" variant="flat" to="/powers" :disabled="!!next">See the ladder</v-btn>
      </template>
      <v-btn ref="more" aria-label="More: fit, labels, import, export" aria-haspopup="menu"
        :aria-expanded="moreIsOpen" @click="moreIsOpen = !moreIsOpen">More</v-btn>
      <MoreMenu v-if="moreIsWanted" v-model="moreIsOpen" :activator="more?.$el ?? null" @fit="fitIsOpen = true"
        @label="labelIsOpen = true" @import="importIsOpen = true" />
    </header>

    <p v-if="kit.refusal" role="alert">{{ kit.refusal.words }}</p>
    <div v-if="kit.isEmpty" class="empty">
      <svg viewBox="0 0 320 120" width="360" aria-hidden="true">
        <path d="M12 112h296" /><path d="M84 112 150 62l66 50M150 62v50" /><g transform="rotate(-16 150 50)"><path
          d="M54 36h150v30H54zM204 42h34v18h-34zM40 32h16v38H40z" /></g>
      </svg>
      <h2>Nothing on the bench yet</h2>
      <p>What is printed on the telescope and its eyepieces is enough to begin.</p>
      <v-btn ref="begin" color="primary" variant="flat" size="large" @click="boxIsOpen = true">Put your first
        telescope on the bench</v-btn>
      <button type="button" class="link-button" @click="loadDemo">or load the demo kit instead</button>
    </div>
    <template v-else-if="kit.owned">
      <div v-if="kit.due.length" class="due" role="status">
        <b>Due before you go:</b>
        <button v-for="one in kit.due" :key="one.upkeep.id ?? 0" type="button" class="plain-button"
          :aria-description="one.words" @click="openDue(one)">
          {{ one.item_name }}: {{ one.upkeep.task }}
        </button>
      </div>
      <TelescopeShelf :telescopes="kit.owned.telescope" :tubes="kit.tubes" :finders="kit.owned.finder"
        :chosen-id="chosenId" @open="opened = { kind: 'telescope', item: $event }" />
      <OpenCase
        :eyepieces="kit.owned.eyepiece" :amplifiers="kit.owned.amplifier"
        @open-eyepiece="opened = { kind: 'eyepiece', item: $event }"
        @open-amplifier="opened = { kind: 'amplifier', item: $event }"
        @add-eyepiece="add('eyepiece')" @add-amplifier="add('amplifier')"
      />
      <SmallParts :owned="kit.owned" @open="(kind, item) => opened = { kind, item }" />
    </template>
    <BoxSheet v-if="boxIsWanted" v-model="boxIsOpen" @unpacked="go('/setup')"
      @by-piece="add('telescope')" />
    <KitSheet v-if="sheetIsWanted" v-model="opened" />
    <ImportDialog v-if="importIsWanted" v-model="importIsOpen"
      title="Import kit from a file" :told="toldKit" preview="/kit/import-preview"
      store="/kit/import" hint="CSV with one item a row, or the JSON document. Export once to see the form." />
    <LabelCheck v-if="labelIsWanted" v-model="labelIsOpen" />
    <FitDialog v-if="fitIsWanted" v-model="fitIsOpen" />
  </section>
</template>

<style scoped>
.kit { height: 100%; padding: 8px 20px 10px; display: flex; flex-direction: column; gap: 8px; }
.head { display: flex; gap: 12px; align-items: center; flex-wrap: wrap; }
.space { flex: 1; }
.due { background: var(--brass-wash); border-left: 5px solid var(--brass); border-radius: 6px; padding: 0 14px; display: flex; flex-wrap: wrap; gap: 0 22px; align-items: center; flex: none; }
.due button { min-height: max(44px, var(--least)); text-decoration: underline; text-underline-offset: 3px; }
.empty { margin: auto; display: grid; justify-items: center; gap: 14px; text-align: center; max-width: 52ch; }
.empty svg { stroke: var(--ink-quiet); fill: none; stroke-width: 2.5; stroke-linejoin: round; }
</style>
