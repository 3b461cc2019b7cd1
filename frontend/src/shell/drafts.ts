import { computed, getCurrentScope, onScopeDispose, ref, toValue, watch, type MaybeRefOrGetter, type Ref, type WritableComputedRef } from 'vue'

const PREFIX = 'jade-perch.draft.'
/** So many drafts are kept; the oldest of more is forgotten. */
export const MOST_DRAFTS = 60
type Values = Record<string, unknown>
interface Kept { at: number, values: Values }

function read (storage: Storage, key: string): Kept | null {
  try {
    return JSON.parse(storage.getItem(key) ?? 'null') as Kept | null
  } catch {
    return null
  }
}

/** Keep a draft under its name; the oldest go when there are too many. */
export function keepDraft (storage: Storage, name: string, values: Values, at: number) {
  try {
    storage.setItem(PREFIX + name, JSON.stringify({ at, values } satisfies Kept))
    const keys = Object.keys(storage).filter(key => key.startsWith(PREFIX))
    if (keys.length <= MOST_DRAFTS) return // so it is at nearly every keystroke
    const byAge = keys.map(key => ({ key, at: read(storage, key)?.at ?? 0 })).sort((a, b) => b.at - a.at)
    for (const { key } of byAge.slice(MOST_DRAFTS)) storage.removeItem(key)
  } catch {
    // a full or forbidden storage only costs the memory of these words
  }
}

/** Whether something is being written under a name. */
export const hasDraft = (storage: Storage, name: string) => read(storage, PREFIX + name) !== null

/** One of some values, to be read and written by itself. */
export const partOf = <T extends object, Key extends keyof T>(values: Ref<T>, key: Key): WritableComputedRef<T[Key]> => computed({
  get: () => values.value[key], set: value => { values.value = { ...values.value, [key]: value } },
})
/** One of the typed texts of a draft by itself. */
export const textOf = (values: Ref<Values>, key: string): WritableComputedRef<string> => computed({
  get: () => String(values.value[key] ?? ''), set: text => { values.value = { ...values.value, [key]: text } },
})

export interface UseDraftReturn {
  values: Ref<Values>
  /** Whether what stands there was typed and not stored yet. */
  isDraft: Ref<boolean>
  /** Throw the typed words away and begin anew; the result brings them back. */
  forget: () => () => void
  /** What stands there is stored now: it stays, or what was made of it, and is a draft no longer. */
  settle: (stored?: Values) => void
  /** What it begins with is another now: where nothing was typed, it begins anew. */
  follow: () => void
}

/**
 * What is typed into a form, kept until it is stored or thrown away: through Escape, a closed sheet, a reload,
 * and in every tab that has the same form open. `name` null is no form; `fresh` is what it begins with.
 */
export function useDraft (
  name: MaybeRefOrGetter<string | null>, fresh: () => Values, storage: Storage = localStorage, host: Window = window,
): UseDraftReturn {
  const values = ref<Values>({})
  const isDraft = ref(false)
  let isOurs = true

  function show (now: Values) {
    isOurs = false
    values.value = now
    isOurs = true
  }
  function take (kept: Kept | null) {
    show(kept ? { ...fresh(), ...kept.values } : fresh())
    isDraft.value = kept !== null
  }
  function settle (stored?: Values) {
    const now = toValue(name)
    if (now !== null) storage.removeItem(PREFIX + now)
    if (stored) show(stored)
    isDraft.value = false
  }
  function follow () {
    if (!isDraft.value && toValue(name) !== null) take(null)
  }
  function forget () {
    const now = toValue(name)
    const was = now === null ? null : read(storage, PREFIX + now)
    settle()
    take(null)
    return () => {
      if (now === null || !was) return
      keepDraft(storage, now, was.values, was.at)
      if (toValue(name) === now) take(was)
    }
  }
  watch(() => toValue(name), now => take(now === null ? null : read(storage, PREFIX + now)), { immediate: true, flush: 'sync' })
  watch(values, now => {
    const key = toValue(name)
    if (!isOurs || key === null) return
    isDraft.value = true
    keepDraft(storage, key, now, Date.now())
  }, { deep: true, flush: 'sync' })
  function onStorage (event: StorageEvent) {
    const key = toValue(name)
    if (key !== null && event.key === PREFIX + key) take(read(storage, PREFIX + key))
  }
  host.addEventListener('storage', onStorage)
  if (getCurrentScope()) onScopeDispose(() => host.removeEventListener('storage', onStorage))
  return { values, isDraft, forget, settle, follow }
}
