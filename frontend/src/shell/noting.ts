import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Observation } from '@/api/items'
import { useEvening } from './evening'
import { useKept } from './kept'
import { useRungs } from './rungs'
import { localStamp } from './time'

/** Everything typed so far, as text; the server judges it. */
export interface Draft {
  id: number | null
  stamp: string
  zone: string
  object_name: string
  telescope_name: string
  glass: string
  magnification: string
  steadiness: number | null
  words: string
  site_name: string
}

/** The observation being written; kept while it is open, so that a closed lid loses nothing. */
export const useNoting = defineStore('noting', () => {
  const evening = useEvening()
  const rungs = useRungs()
  const draft = useKept<Draft | null>('observation-draft', null)
  /** What the observer is looking at, if a station knows. */
  const target = shallowRef('')
  /** Counts up whenever an observation was stored, changed or taken back. */
  const version = shallowRef(0)

  function begin () {
    if (draft.value) return
    const { evening: now } = evening
    const rung = rungs.selected
    draft.value = {
      id: null,
      stamp: localStamp(now?.now_utc ?? new Date().toISOString(), evening.zone),
      zone: evening.zone,
      object_name: target.value,
      telescope_name: now?.telescope?.name ?? '',
      glass: rung?.label ?? '',
      magnification: rung ? rung.magnification.toFixed(2) : '',
      steadiness: now?.choice.steadiness ?? null,
      words: '',
      site_name: now?.site?.name ?? '',
    }
  }
  function edit (one: Observation) {
    draft.value = {
      id: one.id ?? null,
      stamp: localStamp(one.observed_at_utc, one.zone ?? 'UTC'),
      zone: one.zone ?? 'UTC',
      object_name: one.object_name,
      telescope_name: one.telescope_name ?? '',
      glass: one.glass ?? '',
      magnification: one.magnification == null ? '' : String(one.magnification),
      steadiness: one.steadiness ?? null,
      words: one.words ?? '',
      site_name: one.site_name ?? '',
    }
  }
  return { draft, target, version, begin, edit }
})
