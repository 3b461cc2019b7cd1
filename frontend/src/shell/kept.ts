import { ref, watch, type Ref } from 'vue'

/** A ref that is still there when the lid is opened again; parts it did not have then are as at first. */
export function useKept<T> (name: string, initial: T, storage: Storage = localStorage): Ref<T> {
  const key = `jade-perch.${name}`
  const kept = ref(read(storage, key, initial)) as Ref<T>
  watch(kept, value => {
    try {
      storage.setItem(key, JSON.stringify(value))
    } catch {
      // a full or forbidden storage only costs the memory of this choice
    }
  }, { deep: true, flush: 'sync' })
  return kept
}

function read<T> (storage: Storage, key: string, initial: T): T {
  try {
    const text = storage.getItem(key)
    const kept = text === null ? initial : JSON.parse(text) as T
    return isParts(kept) && isParts(initial) ? { ...initial, ...kept } : kept
  } catch {
    return initial
  }
}

const isParts = (value: unknown): value is object => typeof value === 'object' && value !== null && !Array.isArray(value)
