<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Refusal } from '@/api/client'
import FieldForm from '@/shell/FieldForm.vue'
import RefusalLine from '@/shell/RefusalLine.vue'
import SideSheet from '@/shell/SideSheet.vue'
import { asText, asTyped, type Field } from '@/shell/fields'
import UpkeepList from './UpkeepList.vue'
import { KINDS, type KindName } from './kitFields'
import { useKit } from './kitStore'

export interface Opened {
  kind: KindName
  item: { id?: number | null, name: string } | null
}

const opened = defineModel<Opened | null>({ required: true })
const kit = useKit()
const values = ref<Record<string, unknown>>({})
const refusal = ref<Refusal | null>(null)
const isSaving = ref(false)
const showsMore = ref(false)
const fields = computed<readonly Field[]>(() => opened.value ? KINDS[opened.value.kind].fields : [])
const shown = computed(() => fields.value
  .filter(field => !field.more || showsMore.value || refusal.value?.for(field.key))
  .map(field => field.from ? { ...field, options: choices(field.from) } : field))
const id = computed(() => opened.value?.item?.id ?? null)
const title = computed(() => {
  const word = opened.value && KINDS[opened.value.kind].word
  return id.value === null ? `New ${word}` : opened.value?.item?.name ?? ''
})

function choices (kind: 'mount' | 'diagonal' | 'telescope') {
  const owned = kit.owned?.[kind] ?? []
  return [{ title: 'none', value: '' }, ...owned.map(one => ({ title: one.name, value: one.id ?? '' }))]
}
watch(opened, now => {
  refusal.value = null
  showsMore.value = now?.item?.id !== undefined && now?.item?.id !== null
  if (now) values.value = now.item ? asText(KINDS[now.kind].fields, now.item) : { ...KINDS[now.kind].fresh }
}, { immediate: true })

async function save () {
  if (!opened.value) return
  isSaving.value = true
  try {
    await kit.save(opened.value.kind, id.value, asTyped(fields.value, values.value))
    opened.value = null
  } catch (error) {
    refusal.value = error as Refusal
  } finally {
    isSaving.value = false
  }
}
function duplicate () {
  if (!opened.value?.item) return
  const copy = { ...opened.value.item, id: null, name: `${opened.value.item.name} (second)` }
  opened.value = { kind: opened.value.kind, item: copy }
}
async function remove () {
  const was = opened.value
  if (!was?.item?.id) return
  try {
    await kit.remove(was.kind, was.item.id, was.item.name)
    opened.value = null
  } catch (error) {
    refusal.value = error as Refusal
  }
}
</script>

<template>
  <SideSheet :model-value="opened !== null" :title="title" @update:model-value="opened = null">
    <form v-if="opened" id="kit-form" class="form" novalidate @submit.prevent="save">
      <FieldForm v-model="values" :fields="shown" :refusal="refusal" />
      <button v-if="!showsMore && fields.some(field => field.more)" type="button" class="link-button" @click="showsMore = true">
        Say more, if you know it
      </button>
    </form>
    <RefusalLine :refusal="refusal" :beside="shown.map(field => field.key)" />
    <UpkeepList v-if="opened && id !== null" :kind="opened.kind" :item-id="id" />
    <template #actions>
      <v-btn type="submit" form="kit-form" color="primary" variant="flat" :loading="isSaving">Save</v-btn>
      <template v-if="id !== null">
        <v-btn @click="duplicate">Duplicate</v-btn>
        <v-btn @click="remove">Delete</v-btn>
      </template>
    </template>
  </SideSheet>
</template>

<style scoped>
.form { display: grid; gap: 18px; }
</style>
