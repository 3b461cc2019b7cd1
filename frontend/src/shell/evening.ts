import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { call, Refusal, type Schema } from '@/api/client'

export type Evening = Schema<'Evening'>
export type EveningChoice = Schema<'EveningChoice'>
const REFRESH_MS = 30_000

/** What every station reads: place, date, telescope, people, the night and now. */
export const useEvening = defineStore('evening', () => {
  const evening = shallowRef<Evening | null>(null)
  const refusal = shallowRef<Refusal | null>(null)
  /** Counts up whenever something a station computed from may have changed. */
  const version = shallowRef(0)

  async function take (answer: Promise<Evening>) {
    try {
      evening.value = await answer
      refusal.value = null
    } catch (error) {
      refusal.value = error as Refusal
    }
  }
  async function refresh () {
    await take(call<Evening>('/evening'))
    version.value++
  }
  /** Changes are stored one after the other, each upon the last, so that two quick ones do not undo each other. */
  let before: Promise<unknown> = Promise.resolve()
  /** Store a change of the choices; rejects with a `Refusal` so that a form can show it. */
  function choose (change: Partial<EveningChoice>): Promise<void> {
    const mine = before.catch(() => undefined).then(async () => {
      const base = evening.value?.choice
      evening.value = await call<Evening>('/evening', { method: 'PUT', json: { ...base, ...change } })
      version.value++
    })
    before = mine
    return mine
  }
  /** Follow the clock while the page is open; call the result to stop. */
  function follow (): () => void {
    const ask = () => { if (document.visibilityState === 'visible') void refresh() }
    const timer = setInterval(ask, REFRESH_MS)
    document.addEventListener('visibilitychange', ask)
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', ask)
    }
  }
  const zone = computed(() => evening.value?.site?.zone ?? 'UTC')
  return { evening, refusal, version, zone, refresh, choose, follow }
})
