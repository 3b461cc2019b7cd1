<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schema } from '@/api/client'
import ChangedMeanwhile from '@/shell/ChangedMeanwhile.vue'
import DraftLine from '@/shell/DraftLine.vue'
import FieldForm from '@/shell/FieldForm.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { textOf } from '@/shell/drafts'
import { asText, type Field } from '@/shell/fields'
import { useNotices } from '@/shell/notices'
import { useItemForm, type FormItem } from '@/shell/useItemForm'
import { useMore } from '@/shell/useMore'
import { useAttempt } from '@/shell/useAsked'
import PrintedLabel from './PrintedLabel.vue'
import ReachDialog from './ReachDialog.vue'
import UpkeepList from './UpkeepList.vue'
import { KINDS, type KindName } from './kitFields'
import { useKit } from '@/stores/kit'

export interface Opened {
  kind: KindName
  item: (FormItem & { name: string }) | null
}

const opened = defineModel<Opened | null>({ required: true })
const kit = useKit()
const fields = computed<readonly Field[]>(() => opened.value ? KINDS[opened.value.kind].fields : [])
const { showsMore, shown: asked } = useMore(fields, () => refusal.value)
const shown = computed(() => asked.value.map(withChoices))
const id = computed(() => opened.value?.item?.id ?? null)
const title = computed(() => {
  const word = opened.value && KINDS[opened.value.kind].word
  return id.value === null ? `New ${word}` : opened.value?.item?.name ?? ''
})

function withChoices (field: Field): Field {
  if (field.kinds) return { ...field, options: kit.kinds?.[field.kinds] ?? [] }
  if (!field.from) return field
  const owned = kit.owned?.[field.from] ?? []
  return { ...field, options: [{ title: 'none', value: '' }, ...owned.map(one => ({ title: one.name, value: one.id ?? '' }))] }
}
const form = useItemForm<FormItem>({
  of: () => opened.value && `kit.${opened.value.kind}`,
  fields,
  item: () => id.value === null ? null : opened.value?.item ?? null,
  fresh: () => {
    const { kind, item } = opened.value ?? { kind: 'telescope' as const, item: null }
    return item ? asText(KINDS[kind].fields, item) : { ...KINDS[kind].fresh }
  },
  store: (itemId, item) => kit.save(opened.value!.kind, itemId, item),
})
const { values, isDraft, refusal, isSaving, differences } = form
const notices = useNotices()
const removing = useAttempt()
const printed = textOf(values, 'printed')
const reachId = ref<number | null>(null)
watch(opened, now => {
  removing.refusal.value = null
  showsMore.value = now?.item?.id !== undefined && now?.item?.id !== null
}, { immediate: true })

/** What is printed fills the fields it answers, and the name while there is none. */
function takeLabel (label: Schema<'TelescopeLabel'>) {
  const { aperture_mm, focal_length_mm } = label
  const name = String(values.value.name ?? '').trim() || `${aperture_mm}/${focal_length_mm}`
  values.value = { ...values.value, name, aperture_mm: String(aperture_mm), focal_length_mm: String(focal_length_mm) }
}
/** Something new begins with what is usual for its kind. */
watch(() => values.value.kind, kind => {
  if (id.value !== null || opened.value?.kind !== 'mount') return
  const levelling = kit.kinds?.mount.find(one => one.value === kind)?.usual?.levelling
  if (levelling) values.value = { ...values.value, levelling }
})
async function closeWith (stored: Promise<FormItem | undefined>) {
  if (await stored !== undefined) opened.value = null
}
function duplicate () {
  if (!opened.value?.item) return
  const copy = { ...opened.value.item, id: null, name: `${opened.value.item.name} (second)` }
  opened.value = { kind: opened.value.kind, item: copy }
  form.forget()
}
function close () {
  if (isDraft.value) notices.say(`Kept as a draft: ${title.value} opens again as it is.`)
  opened.value = null
}
async function remove () {
  const was = opened.value
  if (!was?.item?.id) return
  const { kind, item } = was
  await removing.once(() => kit.remove(kind, item))
  if (!removing.refusal.value) opened.value = null
}
</script>

<template>
  <SideSheet :model-value="opened !== null" :title="title" @update:model-value="close">
    <form v-if="opened" id="kit-form" class="form" novalidate @submit.prevent="closeWith(form.save())">
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <PrintedLabel v-if="opened.kind === 'telescope' && id === null" v-model="printed" @read="takeLabel" />
      <FieldForm v-model="values" :fields="shown" :refusal="refusal" />
      <button v-if="!showsMore && fields.some(field => field.more)" type="button" class="link-button"
        @click="showsMore = true">
        Say more, if you know it
      </button>
    </form>
    <ChangedMeanwhile :differences="differences" @mine="closeWith(form.keepMine())" @theirs="form.takeTheirs()" />
    <RefusalLine v-if="!differences.length" :refusal="refusal ?? removing.refusal.value"
      :beside="shown.map(field => field.key)" />
    <UpkeepList v-if="opened && id !== null" :kind="opened.kind" :item-id="id" />
    <template #actions>
      <v-btn type="submit" form="kit-form" color="primary" variant="flat" :loading="isSaving">Save</v-btn>
      <template v-if="id !== null">
        <v-btn v-if="opened?.kind === 'telescope'" @click="reachId = id">What it can show</v-btn>
        <v-btn @click="duplicate">Duplicate</v-btn>
        <v-btn @click="remove">Delete</v-btn>
      </template>
    </template>
  </SideSheet>
  <ReachDialog v-model="reachId" />
</template>

<style scoped>
.form { display: grid; gap: 18px; }
</style>
