<script setup lang="ts">
import { computed } from 'vue'
import { call } from '@/api/client'
import { useDraft } from '@/shell/drafts'
import DraftLine from '@/shell/DraftLine.vue'
import KindPicker from '@/shell/KindPicker.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { useAttempt } from '@/shell/useAsked'
import { useThrown } from '@/shell/useThrown'
import PrintedLabel from './PrintedLabel.vue'
import { useKit } from '@/stores/kit'

/** Everything of a first box in one go: what is printed on it, what it looks like. */
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ unpacked: [], byPiece: [] }>()
const kit = useKit()
const FRESH = { printed: '', design: 'newtonian', mount_kind: null, finder_kind: null, eyepieces: '', barlow: '' }
const { values, isDraft, forget } = useDraft(() => isOpen.value ? 'kit.box' : null, () => ({ ...FRESH }))
const { refusal, isBusy, once } = useAttempt()
const finders = computed(() => [...(kit.kinds?.finder ?? []), { title: 'No finder', value: 'none' }])
const text = (key: string) => String(values.value[key] ?? '')
function set (key: string, value: unknown) {
  values.value = { ...values.value, [key]: value }
}
const startOver = useThrown(forget)
async function unpack () {
  const finder = values.value.finder_kind
  const box = { ...values.value, finder_kind: finder === 'none' ? null : finder }
  const stored = await once(() => call('/kit/box', { method: 'POST', json: box }))
  if (stored === undefined) return
  forget()
  isOpen.value = false
  emit('unpacked')
}
</script>

<template>
  <SideSheet v-model="isOpen" title="What was in the box">
    <form id="box-form" class="form" novalidate @submit.prevent="unpack">
      <DraftLine :is-draft="isDraft" @start-over="startOver()" />
      <PrintedLabel :model-value="text('printed')" :error-messages="refusal?.for('printed')"
        @update:model-value="set('printed', $event)" />
      <KindPicker :model-value="text('design') || null" label="It looks like" family="telescope"
        :options="kit.kinds?.telescope ?? []" @update:model-value="set('design', $event)" />
      <KindPicker :model-value="text('mount_kind') || null" label="It stands on" family="mount"
        :options="kit.kinds?.mount ?? []"
        :error-messages="refusal?.for('mount_kind')" @update:model-value="set('mount_kind', $event)" />
      <KindPicker :model-value="text('finder_kind') || null" label="To find things it has" family="finder"
        :options="finders" @update:model-value="set('finder_kind', $event)" />
      <v-text-field :model-value="text('eyepieces')" label="Numbers on the eyepieces, in mm" placeholder="25, 10"
        persistent-placeholder autocomplete="off"
        :error-messages="refusal?.for('eyepieces')" @update:model-value="set('eyepieces', $event)" />
      <v-text-field :model-value="text('barlow')" label="Number on the Barlow (if there is one)" placeholder="2×"
        persistent-placeholder autocomplete="off"
        :error-messages="refusal?.for('barlow')" @update:model-value="set('barlow', $event)" />
      <p class="quiet small">Everything else is taken as usual, marked so, and learned as you go.</p>
    </form>
    <RefusalLine :refusal="refusal" :beside="['printed', 'mount_kind', 'eyepieces', 'barlow']" />
    <template #actions>
      <v-btn type="submit" form="box-form" color="primary" variant="flat" :loading="isBusy">Put it on the bench</v-btn>
      <v-btn variant="text" @click="isOpen = false; $emit('byPiece')">Type it piece by piece</v-btn>
    </template>
  </SideSheet>
</template>

<style scoped>
.form { display: grid; gap: 18px; }
</style>
