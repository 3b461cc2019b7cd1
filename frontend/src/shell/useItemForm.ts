import { computed, toValue, watch, type ComputedRef, type MaybeRefOrGetter, type Ref } from 'vue'
import { fieldName, type Refusal } from '@/api/client'
import { useDraft } from './drafts'
import { asText, asTyped, type Field } from './fields'
import { useAttempt } from './useAsked'
import { useThrown } from './useThrown'

export interface FormItem { id?: number | null, version?: number | null }
export interface UseItemFormOptions<T extends FormItem> {
  /** What the form is of, such as `kit.mount`; null while it is closed. */
  of: MaybeRefOrGetter<string | null>
  /** There is one of it, stored already or not: what is typed stays where another window stores it first. */
  isOne?: boolean
  fields: MaybeRefOrGetter<readonly Field[]>
  /** What is changed, or null for something new. */
  item: MaybeRefOrGetter<T | null>
  /** What something new begins with. */
  fresh: () => Record<string, unknown>
  store: (id: number | null, item: Record<string, unknown>) => Promise<T>
  /** What is sent besides the fields, made of the typed values. */
  besides?: (values: Record<string, unknown>) => Record<string, unknown>
  /** Something stored as the values of the form. */
  shown?: (item: T) => Record<string, unknown>
}
export interface Difference { key: string, label: string, mine: string, theirs: string }
export interface UseItemFormReturn<T extends FormItem> {
  values: Ref<Record<string, unknown>>
  isDraft: Ref<boolean>
  refusal: Ref<Refusal | null>
  isSaving: Ref<boolean>
  /** What somebody else changed meanwhile, both values each; empty without a conflict. */
  differences: ComputedRef<Difference[]>
  /** Store it; gives what was stored, or undefined when it was refused. */
  save: () => Promise<T | undefined>
  /** Throw the typed words away; they are offered back. */
  startOver: () => void
  /** The thing itself is gone: its words go without a word; the result brings them back. */
  forget: () => () => void
  /** After a conflict: store these values over the others, or show the others here. */
  keepMine: () => Promise<T | undefined>
  takeTheirs: () => void
}

/** A value as the form shows it: the words of a choice, else what was typed. */
function said (field: Field | undefined, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  const chosen = field?.options?.find(one => one.value === value)
  return chosen?.title ?? String(value || '–')
}

/** One form for one kept thing: its words outlive the page, and a change that comes too late is shown beside the other. */
export function useItemForm<T extends FormItem> (options: UseItemFormOptions<T>): UseItemFormReturn<T> {
  const fields = () => toValue(options.fields)
  const asShown = (item: T) => ({ ...(options.shown?.(item) ?? asText(fields(), item)), version: item.version ?? null })
  const begin = () => {
    const item = toValue(options.item)
    return item ? asShown(item) : options.fresh()
  }
  const name = computed(() => {
    const of = toValue(options.of)
    return of === null || options.isOne ? of : `${of}.${toValue(options.item)?.id ?? 'new'}`
  })
  const { values, isDraft, forget, settle, follow } = useDraft(name, begin)
  const { refusal, isBusy: isSaving, once } = useAttempt()
  watch(name, () => { refusal.value = null })
  watch(() => toValue(options.item)?.version, follow) // whoever stored it: where nothing is typed, what is stored is shown

  /** What the form does not ask about stays as it is stored, by whoever stored it last. */
  function untouched (): Record<string, unknown> {
    const stored = theirs.value ?? toValue(options.item)
    const asked = new Set([...fields().map(field => field.key), 'id', 'version'])
    return Object.fromEntries(Object.entries(stored ?? {}).filter(([key]) => !asked.has(key)))
  }
  async function save () {
    const id = toValue(options.item)?.id ?? null
    const version = id === null ? {} : { version: values.value.version }
    const typed = { ...untouched(), ...asTyped(fields(), values.value), ...options.besides?.(values.value), ...version }
    const stored = await once(() => options.store(id, typed))
    if (stored === undefined) return stored
    if (id === null && !options.isOne) forget()
    else settle(asShown(stored))
    return stored
  }
  const theirs = computed(() => refusal.value?.stored as T | null | undefined)
  const differences = computed<Difference[]>(() => {
    if (!theirs.value) return []
    const stored: Record<string, unknown> = asShown(theirs.value)
    return (refusal.value?.problem.errors ?? []).map(({ field: key }) => {
      const field = fields().find(one => one.key === key)
      return { key, label: field?.label ?? fieldName(key), mine: said(field, values.value[key]), theirs: said(field, stored[key]) }
    })
  })
  function keepMine () {
    values.value = { ...values.value, version: theirs.value?.version ?? null }
    return save()
  }
  function takeTheirs () {
    const stored = theirs.value
    if (!stored) return
    settle(asShown(stored))
    refusal.value = null
  }
  return { values, isDraft, refusal, isSaving, differences, save, startOver: useThrown(forget), forget, keepMine, takeTheirs }
}
