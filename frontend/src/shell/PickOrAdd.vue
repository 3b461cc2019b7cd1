<script setup lang="ts" generic="T extends { id?: number | null, version?: number | null, name: string }">
import { computed, ref, shallowRef, type Ref } from 'vue'
import type { Items } from '@/api/client'
import ChangedMeanwhile from './ChangedMeanwhile.vue'
import DraftLine from './DraftLine.vue'
import FieldForm from './FieldForm.vue'
import RefusalLine from './RefusalLine.vue'
import type { Field } from './fields'
import { useNotices } from './notices'
import { useAttempt } from './useAsked'
import { useItemForm } from './useItemForm'
import { useMore } from './useMore'

const props = defineProps<{
  label: string
  /** What one of them is called, as in "Add a place". */
  one: string
  items: Items<T>
  /** All of them as this opens; read beforehand, so that nothing moves under the finger. */
  stored: readonly T[]
  fields: readonly Field[]
  fresh: Record<string, unknown>
}>()
const emit = defineEmits<{ stored: [] }>()
const chosenId = defineModel<number | null>({ required: true })
const notices = useNotices()
const all = shallowRef(props.stored) as Ref<readonly T[]>
/** What the form is open for: something stored, or something new. */
const editing = ref(null) as Ref<{ item: T | null } | null>
const isNew = computed(() => !editing.value?.item)
const form = useItemForm<T>({
  of: () => editing.value && `evening.${props.one}`,
  fields: () => props.fields,
  item: () => editing.value?.item ?? null,
  fresh: () => ({ ...props.fresh }),
  store: (id, item) => props.items.save(id, item),
})
const { values, isDraft, refusal, differences } = form
const removing = useAttempt()
const { showsMore, shown } = useMore(() => props.fields, () => refusal.value)

async function load () {
  all.value = await props.items.list()
}
function begin (item: T | null) {
  removing.refusal.value = null
  editing.value = { item }
  showsMore.value = item !== null
}
async function closeWith (saving: Promise<T | undefined>) {
  const stored = await saving
  if (!stored) return
  editing.value = null
  chosenId.value = stored.id ?? null
  emit('stored')
  await removing.attempt(load)
}
async function remove () {
  const item = editing.value?.item
  const id = item?.id
  if (!item || !id) return
  await removing.once(() => props.items.remove(item))
  if (removing.refusal.value) return
  form.forget()
  editing.value = null
  if (chosenId.value === id) chosenId.value = null
  notices.say(`One ${props.one} less.`, async () => {
    await props.items.restore(id)
    chosenId.value = id
    await removing.attempt(load)
  })
  await removing.attempt(load)
}
if (!all.value.length && props.one === 'place') begin(null)
</script>

<template>
  <fieldset class="pick">
    <legend>{{ label }}</legend>
    <div v-if="all.length" class="choices">
      <span v-for="item in all" :key="item.id ?? 0" class="choice">
        <button type="button" class="name" :aria-pressed="item.id === chosenId"
          @click="chosenId = item.id ?? null">{{ item.name }}</button>
        <button type="button" class="edit" :aria-label="`Change ${item.name}`" @click="begin(item)">change</button>
      </span>
    </div>
    <form v-if="editing" class="form" novalidate @submit.prevent="closeWith(form.save())">
      <DraftLine :is-draft="isDraft" @start-over="form.startOver()" />
      <slot name="help" :values="values" :set="(now: Record<string, unknown>) => { values = now }" />
      <FieldForm v-model="values" :fields="shown" :refusal="refusal" />
      <button v-if="!showsMore && fields.some(field => field.more)" type="button" class="link-button"
        @click="showsMore = true">Say more, if you know it</button>
      <ChangedMeanwhile :differences="differences" @mine="closeWith(form.keepMine())" @theirs="form.takeTheirs()" />
      <RefusalLine v-if="!differences.length" :refusal="refusal ?? removing.refusal.value"
        :beside="shown.map(field => field.key)" />
      <div class="buttons">
        <v-btn type="submit" color="primary" variant="flat">Save {{ one }}</v-btn>
        <v-btn v-if="!isNew" @click="remove">Delete</v-btn>
        <v-btn variant="text" @click="form.startOver(); editing = null">Cancel</v-btn>
      </div>
    </form>
    <button v-else type="button" class="link-button" @click="begin(null)">Add a {{ one }}</button>
  </fieldset>
</template>

<style scoped>
.pick { border: 0; padding: 0; margin: 0; display: grid; gap: 8px; }
legend { font-weight: 700; padding-bottom: 6px; }
.choices { display: grid; gap: 6px; }
.choice { display: flex; border: 1px solid var(--edge); border-radius: 10px; overflow: hidden; }
.choice button { font: inherit; color: inherit; background: none; border: 0; min-height: 48px; padding: 0 14px; cursor: pointer; }
.name { flex: 1; text-align: left; }
.name[aria-pressed='true'] { background: var(--jade-wash) !important; font-weight: 700; box-shadow: inset 5px 0 0 var(--jade); }
.edit { text-decoration: underline; }
.form { display: grid; gap: 16px; border: 1px solid var(--line); border-radius: 10px; padding: 16px; }
.buttons { display: flex; gap: 10px; flex-wrap: wrap; }
.choice button:focus-visible { outline-offset: -3px; }
</style>
