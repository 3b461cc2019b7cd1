import { defineStore } from 'pinia'
import { ref } from 'vue'
import { useKept } from '@/shell/kept'

export interface Filters { text: string, kind: string | null, outcome: string | null, telescope: string | null, since: string, until: string }
export const NO_FILTERS: Readonly<Filters> = { text: '', kind: null, outcome: null, telescope: null, since: '', until: '' }

/** What of the journal is looked at, the same after a look at another station. */
export const useJournal = defineStore('journal', () => {
  const tab = useKept<'evenings' | 'lists' | 'lessons'>('journal-tab', 'evenings')
  const filters = ref<Filters>({ ...NO_FILTERS })
  /** The evening or the one observation that is opened beside the list. */
  const eveningId = ref<number | null>(null)
  const noteId = ref<number | null>(null)
  function openEvening (id: number) {
    eveningId.value = id
    noteId.value = null
  }
  function openNote (id: number) {
    noteId.value = id
    eveningId.value = null
  }
  function close () {
    eveningId.value = noteId.value = null
  }
  return { tab, filters, eveningId, noteId, openEvening, openNote, close }
})
