import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { newKey } from '@/api/client'
import type { Observation } from '@/api/items'
import { hasDraft, keepDraft } from '@/shell/drafts'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { localStamp, ownZone } from '@/shell/time'
import { useOutbox, type Letter } from './outbox'

/** The observation being written; it is open again when the lid is, and its words are a draft like any other form's. */
export const useNoting = defineStore('noting', () => {
  const opened = useKept<{ item: Observation | null } | null>('noting', null)
  /** What the observer is looking at, if a station knows. */
  const target = shallowRef('')
  function begin () {
    opened.value ??= { item: null }
  }
  /** A note that was not taken is a draft again, unless another one is being written. */
  function reopen (letter: Letter) {
    const name = 'observation.new'
    if (hasDraft(localStorage, name)) return useNotices().say('Save or discard the note that is being written first.')
    const { observed_at_utc: at, zone, ...rest } = letter.json as unknown as Observation
    keepDraft(localStorage, name, { ...rest, zone, stamp: localStamp(at, zone ?? ownZone()), magnification: String(rest.magnification ?? ''), sent_key: newKey() }, Date.now())
    useOutbox().drop(letter.key)
    opened.value = { item: null }
  }
  function edit (item: Observation) {
    opened.value = { item }
  }
  function close () {
    opened.value = null
  }
  return { opened, target, begin, reopen, edit, close }
})
