import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Observation } from '@/api/items'
import { useKept } from '@/shell/kept'

/** The observation being written; it is open again when the lid is, and its words are a draft like any other form's. */
export const useNoting = defineStore('noting', () => {
  const opened = useKept<{ item: Observation | null } | null>('noting', null)
  /** What the observer is looking at, if a station knows. */
  const target = shallowRef('')
  function begin () {
    opened.value ??= { item: null }
  }
  function edit (item: Observation) {
    opened.value = { item }
  }
  function close () {
    opened.value = null
  }
  return { opened, target, begin, edit, close }
})
