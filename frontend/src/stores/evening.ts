import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { call, Refusal, UNREACHABLE, world, type Schema } from '@/api/client'
import { useEvents } from './events'
import { clockTime, ownZone, tellAhead } from '@/shell/time'
import { inTurn } from '@/shell/turns'
import { useAsked } from '@/shell/useAsked'

export type Evening = Schema<'Evening'>
export type EveningChoice = Schema<'EveningChoice'>

/** What every station reads: place, date, telescope, people, the night and now. */
export const useEvening = defineStore('evening', () => {
  const events = useEvents()
  const { answer: evening, refusal: refused, load: refresh } = useAsked(
    () => call<Evening>('/evening'), ['evening', 'view', 'kit', 'setup', 'session', 'clock', 'plan', 'eyepiece'],
  )
  /** Why what is shown may be old: it was refused, nobody answers, or nothing comes any more. */
  const refusal = computed(() => refused.value ?? (events.isLost ? new Refusal(UNREACHABLE) : null))
  watch(evening, now => {
    world.rehearsal = now?.rehearsal ?? null
    tellAhead(now?.ahead ?? null)
  }, { flush: 'sync' })
  /** Store the fields a change names, and no other; rejects with a `Refusal` so that a form can show it. */
  const next = inTurn()
  function choose (change: Partial<EveningChoice>): Promise<void> {
    return next(async () => { evening.value = await call<Evening>('/evening', { method: 'PATCH', json: change }) })
  }
  /** The zone of the place; without one that of this device, never another one's called local. */
  const zone = computed(() => evening.value?.site?.zone ?? ownZone())
  /** Which clock everything goes by, where it is not the real one; empty for that. */
  const clockWords = computed(() => {
    const kind = evening.value?.clock ?? 'real'
    if (kind === 'real') return ''
    return `${kind === 'held' ? 'clock held at' : 'rehearsal clock'} ${clockTime(evening.value?.now_utc, zone.value)}`
  })
  return { evening, refusal, zone, clockWords, refresh, choose }
})
